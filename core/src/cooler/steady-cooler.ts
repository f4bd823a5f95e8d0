import { DRY_AIR_SPECIFIC_HEAT } from '../air/moist-air.js';

/** A mean over a stretch with its 95 % interval. */
interface Mean {
  value: number;
  low: number;
  high: number;
}

export interface SteadyCooler {
  /** (in − out) / (in − cold): how far the charge came towards what cools it. */
  effectiveness: Mean;
  /** What the charge gave up, W; null without its flow. */
  heatW: Mean | null;
}

/** What sensors may be off by, ± at 95 %: K, and a share of the flow. */
interface Accuracy {
  temperatureK: number;
  flowShare: number;
}

/**
 * Effectiveness and heat of a charge cooler at steady load (formula i1), from means over a stretch: °C, and kg/s of charge. What the means leave
 * open and what each sensor may be off by go into the interval, to first order. Null where the charge does not enter hotter than what cools it.
 */
export function steadyCooler(inC: Mean, outC: Mean, coldC: Mean, flowKgS: Mean | null, accuracy: Accuracy): SteadyCooler | null {
  const span = inC.value - coldC.value;
  if (!(span > 0)) return null;
  const fall = inC.value - outC.value;
  const off = (mean: Mean) => Math.hypot((mean.high - mean.low) / 2, accuracy.temperatureK);
  const [inOff, outOff, coldOff] = [off(inC), off(outC), off(coldC)];
  const effectiveness = around(fall / span, Math.hypot(((span - fall) / span ** 2) * inOff, outOff / span, (fall / span ** 2) * coldOff));
  if (!flowKgS) return { effectiveness, heatW: null };
  const heat = flowKgS.value * DRY_AIR_SPECIFIC_HEAT * fall;
  const flowOff = Math.hypot((flowKgS.high - flowKgS.low) / 2, accuracy.flowShare * flowKgS.value);
  const heatOff = DRY_AIR_SPECIFIC_HEAT * Math.hypot(fall * flowOff, flowKgS.value * inOff, flowKgS.value * outOff);
  return { effectiveness, heatW: around(heat, heatOff) };
}

const around = (value: number, half: number): Mean => ({ value, low: value - half, high: value + half });
