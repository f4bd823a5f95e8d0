import type { Findings } from '@gezeit/contract';
import type { Formatter } from '../format/formatter.js';
import { plain, tied } from '../format/values.js';

type Restriction = Findings['restriction'][number];
type Side = NonNullable<NonNullable<Restriction['step']>['below']>;

/** Between which ends something lies; what was measured once has none. */
export const endsOrOnce = (low: number | null, high: number | null, text: (value: number) => string): string =>
  low === null || high === null ? 'one pull: no interval' : `${text(low)} to ${text(high)}`;

/** Where a section's drop steps, as a flap that opens makes it; null where it does not. */
export function stepText({ setup, step }: Restriction, f: Formatter): string | null {
  if (!step) return null;
  const side = (which: Side | null) =>
    which ? `${tied(plain(which.areaCm2, 1), 'cm²')} (${endsOrOnce(which.low, which.high, (value) => plain(value, 1))})` : 'unknown';
  return `${setup} changes at ${f.rpm(step.atRpm)}: the drop by ${f.percent(step.changePct, 0)}, the area from ${side(step.below)} to ${side(step.above)}. The figures are of the side on which the compared flow lies.`;
}
