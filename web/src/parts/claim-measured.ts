import type { ClaimFinding } from '@gezeit/contract';
import { fromSi } from '@gezeit/core';
import { withSign, type Show } from '../shared/units/show.js';

/** What becomes of a claim, in a word or two. */
export const CLAIM_STATES: Record<ClaimFinding['state'], string> = {
  holds: 'holds',
  open: 'not shown',
  contradicted: 'less than claimed',
  withheld: 'withheld',
  'not-checked': 'not checked',
};

const OF: Partial<Record<NonNullable<ClaimFinding['of']>, string>> = {
  levelled: 'from the same start',
  ownStart: 'with the part’s own start',
  flowBench: 'on the flow bench',
};

/** How a figure of a claim is shown: its change into the unit, and the unit. */
function shownIn(unit: string, show: Show): { to: (inside: number) => number; name: string } {
  const { power, torque, pressure } = show.units;
  const units: Record<string, { to: (inside: number) => number; name: string }> = {
    kW: { to: (inside) => fromSi(inside * 1000, power), name: power },
    'N·m': { to: (inside) => fromSi(inside, torque), name: torque },
    K: { to: (inside) => show.differenceOf(inside), name: show.differenceUnit },
    kPa: { to: (inside) => show.pressureOf(inside), name: pressure },
  };
  return units[unit] ?? { to: (inside) => inside, name: unit };
}

/** What was measured of a claim, with its interval and its start. */
export function claimMeasuredText({ value, low, high, unit, of }: ClaimFinding, show: Show): string {
  if (value === null || low === null || high === null) return '';
  const { to, name } = shownIn(unit, show);
  const text = (inside: number) => withSign(to(inside), 1);
  return `${text(value)}\u00a0${name}\u00a0(${text(low)}\u00a0to\u00a0${text(high)})${of && OF[of] ? `, ${OF[of]}` : ''}`;
}

/** The strongest that may be said instead: the end of the interval that lies nearer to nothing. Null where nothing is shown, or all is withheld. */
export function claimInstead({ state, low, high, unit }: ClaimFinding, show: Show): string | null {
  if (low === null || high === null || state === 'withheld') return null;
  const { to, name } = shownIn(unit, show);
  if (low > 0) return `at least ${withSign(to(low), 1)}\u00a0${name}`;
  if (high < 0) return `at least ${withSign(to(high), 1)}\u00a0${name}`;
  return null;
}
