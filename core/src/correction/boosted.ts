import type { BoostControl } from '@gezeit/contract';
import { dryPressurePa, type AirState } from '../air/moist-air.js';
import { saeJ1349 } from './standards.js';

/** Exponent of temperature in c9; assumption, 0.5 to 1.0 are met. */
const BOOSTED_TEMPERATURE_EXPONENT = 0.5;

export interface BoostedEstimate {
  /** Ratio of dry manifold pressures, reference over observed. */
  pressureRatio: number;
  /** The estimate; carries no standard's name. */
  factor: number;
  /** What SAE J1349 would say, for comparison. */
  saeJ1349: number;
}

/**
 * Estimated weather factor of a boosted engine from what holds its manifold pressure (formula c9, an assumption).
 * @param manifoldPa mean manifold pressure over the band, Pa absolute.
 */
export function boostedEstimate(
  control: BoostControl,
  air: AirState,
  manifoldPa: number,
  exponent = BOOSTED_TEMPERATURE_EXPONENT,
): BoostedEstimate {
  const vapourShare = 1 - dryPressurePa(air) / air.pressurePa;
  const referencePa = referenceManifoldPa(control, manifoldPa, air.pressurePa);
  const pressureRatio = (referencePa * 0.99) / (manifoldPa * (1 - vapourShare));
  const x = pressureRatio * ((air.temperatureC + 273) / 298) ** exponent;
  return { pressureRatio, factor: 1.18 * x - 0.18, saeJ1349: saeJ1349(dryPressurePa(air), air.temperatureC) };
}

function referenceManifoldPa(control: BoostControl, manifoldPa: number, ambientPa: number): number {
  if (control === 'absolute') return manifoldPa;
  if (control === 'gauge') return 100_000 + (manifoldPa - ambientPa);
  return (100_000 * manifoldPa) / ambientPa;
}
