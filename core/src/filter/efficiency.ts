import { notNegative, positive } from '../input-rules.js';
import { impossible } from '../errors.js';

/** Gravimetric efficiency, 0 to 1, from the mass that the element and the absolute filter behind it gained, same unit (formula g6; ISO 5011). */
export function filterEfficiency(elementGain: number, absoluteGain: number): number {
  const total = notNegative('gain of the element', elementGain) + notNegative('gain of the absolute filter', absoluteGain);
  return elementGain / positive('dust', total);
}

/** Dust that gets through, times the reference's: penetrations compared, from two efficiencies 0 to 1 (formula g6). */
export function penetrationRatio(referenceEfficiency: number, efficiency: number): number {
  for (const value of [referenceEfficiency, efficiency])
    if (!(value >= 0 && value < 1)) throw impossible('efficiency', 'must lie from 0 to under 1', value);
  return (1 - efficiency) / (1 - referenceEfficiency);
}

/** Whether the weighed dust accounts for what was fed, within a share of it (formula g6). */
export function dustAccounted(fed: number, elementGain: number, absoluteGain: number, within = 0.02): boolean {
  return Math.abs(elementGain + absoluteGain - positive('dust fed', fed)) <= within * fed;
}
