import { notNegative, positive } from '../input-rules.js';
import { impossible } from '../errors.js';

export interface CoolerTest {
  chargeInC: number;
  chargeOutC: number;
  /** Air at the core's face, or coolant entering the core. */
  coldInC: number;
  chargeFlowKgS: number;
  chargeSpecificHeat: number;
  /** Flow of the cooling side; null where it was not measured: then the charge is taken for the smaller side. */
  coldFlowKgS: number | null;
  coldSpecificHeat: number;
}

export interface CoolerResult {
  temperatureRatio: number;
  effectiveness: number;
  heatW: number;
  /** Null where the cooling side's flow is not known. */
  coldOutC: number | null;
  /** Whether the cooling side is the smaller one, so that effectiveness is not the temperature ratio. */
  coldIsSmaller: boolean;
}

/**
 * What a charge cooler did in a test; quasi-steady, the core's own heat storage included (formula i1).
 * @throws GezeitError `impossible-input` where the charge does not enter hotter than the cooling side.
 */
export function coolerTest(test: CoolerTest): CoolerResult {
  const { chargeInC, chargeOutC, coldInC, chargeFlowKgS, chargeSpecificHeat, coldFlowKgS, coldSpecificHeat } = test;
  if (!(chargeInC > coldInC)) throw impossible('charge before the cooler', 'must be hotter than what cools it', chargeInC);
  const charge = positive('charge flow', chargeFlowKgS) * positive('specific heat', chargeSpecificHeat);
  const cold = coldFlowKgS === null ? Infinity : positive('cooling flow', coldFlowKgS) * positive('specific heat', coldSpecificHeat);
  const heatW = charge * (chargeInC - chargeOutC);
  return {
    temperatureRatio: (chargeInC - chargeOutC) / (chargeInC - coldInC),
    effectiveness: heatW / (Math.min(charge, cold) * (chargeInC - coldInC)),
    heatW,
    coldOutC: Number.isFinite(cold) ? coldInC + heatW / cold : null,
    coldIsSmaller: cold < charge,
  };
}

/**
 * Effectiveness, 0 to 1, of a crossflow core with both sides unmixed, from transfer units and the ratio of the smaller to the larger
 * heat-capacity rate (formula i2; closed approximation, within 0.011 of the exact series for NTU 0.1 to 7).
 * Source: Incropera & DeWitt, *Fundamentals of Heat and Mass Transfer*.
 */
export function crossflowEffectiveness(transferUnits: number, capacityRatio: number): number {
  if (!(notNegative('capacity ratio', capacityRatio) <= 1)) throw impossible('capacity ratio', 'must lie between 0 and 1', capacityRatio);
  const ntu = notNegative('transfer units', transferUnits);
  if (ntu === 0) return 0;
  if (capacityRatio === 0) return -Math.expm1(-ntu);
  return -Math.expm1((ntu ** 0.22 / capacityRatio) * Math.expm1(-capacityRatio * ntu ** 0.78));
}

/** Effectiveness of a counterflow core, the bound for every other one (formula i2). */
export function counterflowEffectiveness(transferUnits: number, capacityRatio: number): number {
  if (capacityRatio >= 1) return transferUnits / (1 + transferUnits);
  const decay = Math.exp(-transferUnits * (1 - capacityRatio));
  return (1 - decay) / (1 - capacityRatio * decay);
}

/** Transfer units that give an effectiveness, 0 to under 1, by bisection of formula i2; null where no core of this flow reaches it. */
export function transferUnitsFor(effectiveness: number, capacityRatio: number): number | null {
  if (!(effectiveness >= 0 && effectiveness < 1)) throw impossible('effectiveness', 'must lie from 0 to under 1', effectiveness);
  let [low, high] = [0, 40];
  if (crossflowEffectiveness(high, capacityRatio) < effectiveness) return null;
  for (let i = 0; i < 80; i++) {
    const middle = (low + high) / 2;
    if (crossflowEffectiveness(middle, capacityRatio) < effectiveness) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
