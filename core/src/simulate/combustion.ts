import { CELSIUS_ZERO_K } from '../air/saturation.js';
import type { Engine } from './car.js';

const REFERENCE_CHARGE_C = 45;
const ACTIVATION_K = 3800;
/** End gas is hotter than the charge by compression and the part burnt before it. */
const END_GAS_RATIO = 2.25;
const DEGREES_PER_LOG_DELAY = 6;

/**
 * Spark at which the end gas just does not knock, ° before top dead centre: the ignition delay of an Arrhenius law in pressure and
 * temperature (Heywood, Internal Combustion Engine Fundamentals, chapter 9) against its value at 45 °C charge, turned into degrees.
 */
export function knockLimitDeg(engine: Engine, chargeC: number, manifoldPa: number, rpm: number, coolantC: number): number {
  const usualPa = engine.boost?.targetPa ?? 95_000;
  const endGasK = END_GAS_RATIO * (chargeC + CELSIUS_ZERO_K) + 0.6 * (coolantC - 90);
  const usualK = END_GAS_RATIO * (REFERENCE_CHARGE_C + CELSIUS_ZERO_K);
  const logDelay = ACTIVATION_K / endGasK - ACTIVATION_K / usualK - 1.7 * Math.log(manifoldPa / usualPa);
  return engine.knockSparkDeg + (rpm - 4500) * 0.0011 + DEGREES_PER_LOG_DELAY * logDelay;
}

/** Share of the best torque left when the spark stands some degrees after the best one. */
export function sparkEfficiency(degreesLate: number): number {
  return Math.cos((2.1 * Math.max(0, degreesLate) * Math.PI) / 180);
}
