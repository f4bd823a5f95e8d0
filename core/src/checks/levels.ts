import { studentQuantile } from '../numeric/distributions.js';
import { mean } from '../numeric/means.js';
import type { CheckInput, PullLevel } from './check.js';

/** Degrees of freedom under which the scatter of a day is not known. Assumption. */
const LEAST_FREE = 3;

/** A pull among those of its setup. */
export interface Standing {
  own: PullLevel;
  /** Pulls of its setup, in the order of the day, this one included. */
  setup: readonly PullLevel[];
  all: readonly PullLevel[];
}

/** Where a pull stands; null where it has no figure of power. */
export function standingOf({ id, peers: { levels } }: CheckInput): Standing | null {
  const own = levels.find((entry) => entry.id === id);
  return own ? { own, setup: levels.filter(({ setup }) => setup === own.setup), all: levels } : null;
}

/**
 * How far off a pull may lie from the mean of some others by chance alone, natural logarithms: the pooled scatter of the day without the pulls
 * in doubt, by Student's t (externally studentised residual; Cook and Weisberg, *Residuals and Influence in Regression*). Null where too few
 * pulls are left to tell.
 * @param others how many the mean is of. @param probability one-sided.
 */
export function byChance({ all }: Standing, inDoubt: readonly string[], others: number, probability: number): number | null {
  const known = all.filter(({ id }) => !inDoubt.includes(id));
  const groups = [...new Set(known.map(({ setup }) => setup))].map((setup) =>
    known.filter((entry) => entry.setup === setup).map(({ level }) => level),
  );
  const free = known.length - groups.length;
  if (free < LEAST_FREE) return null;
  const squares = groups.reduce((sum, own) => {
    const middle = mean(own);
    return sum + own.reduce((inner, level) => inner + (level - middle) ** 2, 0);
  }, 0);
  return studentQuantile(free, probability) * Math.sqrt((squares / free) * (1 + 1 / others));
}
