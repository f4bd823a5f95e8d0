import { notNegative, positive, share } from '../input-rules.js';
import { impossible } from '../errors.js';

/** Mechanical efficiency in the upper figure of a restriction's cost, –. Assumption (formula e14). */
const MECHANICAL_EFFICIENCY = 0.85;
/** Most that residual gas and pumping work can make of a kPa, against 1 % to first order. Assumption (formula e14). */
export const LARGEST_GAIN_FACTOR = 1.35;

/**
 * Gain of a naturally aspirated engine, fractions, when the inlet's loss falls, all Pa: to first order (power follows absolute inlet
 * pressure) and as an upper figure with friction unchanged (formula e14).
 */
export function gainOfLessRestriction(
  ambientPa: number,
  dropBeforePa: number,
  dropAfterPa: number,
  mechanicalEfficiency = MECHANICAL_EFFICIENCY,
): { firstOrder: number; upper: number } {
  for (const drop of [dropBeforePa, dropAfterPa])
    if (!(notNegative('pressure drop', drop) < positive('ambient pressure', ambientPa)))
      throw impossible('pressure drop', 'must lie below the ambient pressure', drop);
  const firstOrder = (ambientPa - dropAfterPa) / (ambientPa - dropBeforePa) - 1;
  return { firstOrder, upper: firstOrder / share('mechanical efficiency', mechanicalEfficiency) };
}
