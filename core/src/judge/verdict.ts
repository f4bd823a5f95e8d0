import type { PowerVerdict } from '@gezeit/contract';
import type { Estimate } from './fit.js';

/** The ordinary answer to "is there a gain?": from an interval and the smallest difference that matters, same unit (method of section 2). */
export function gainVerdict({ low, high }: Estimate, smallest: number): Exclude<PowerVerdict, 'withheld'> {
  if (low > 0) return 'gain';
  if (high < 0) return 'loss';
  return low > -smallest && high < smallest ? 'no-difference' : 'not-resolved';
}

/** The answer to "does it lose nothing?": `gain` reads "does not lose". */
export function noLossVerdict({ low, high }: Estimate, smallest: number): 'gain' | 'loss' | 'not-resolved' {
  if (low > -smallest) return 'gain';
  return high < -smallest ? 'loss' : 'not-resolved';
}

/** Per cent of a difference of logarithms. */
export function percentOf(logDifference: number): number {
  return 100 * Math.expm1(logDifference);
}
