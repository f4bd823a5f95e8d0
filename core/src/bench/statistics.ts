import type { WithInterval } from '../flow/fit-drop-law.js';
import { studentQuantile } from '../numeric/distributions.js';
import { mean, sumOfSquares } from '../numeric/means.js';

/** A reading with what it was read at; readings compare only where both sides were read at about the same. */
export interface ReadAt {
  at: number;
  value: number;
}

/** Readings this far apart, as a ratio, count as read at one depression, flow or speed. Assumption. */
const ALIKE_WITHIN = 1.05;

/**
 * Which readings were taken at one depression, flow or speed: a group's number for each, ascending. A group that spans too much is parted
 * at its widest gap, so that no edge falls between two that lie close. @param at positive, in any order.
 */
export function groupsAlike(at: readonly number[]): number[] {
  const order = at.map((_, i) => i).sort((a, b) => at[a]! - at[b]!);
  const parted = (group: readonly number[]): (readonly number[])[] => {
    if (at[group.at(-1)!]! <= at[group[0]!]! * ALIKE_WITHIN) return [group];
    const gaps = group.slice(1).map((index, i) => at[index]! / at[group[i]!]!);
    const cut = gaps.indexOf(Math.max(...gaps)) + 1;
    return [...parted(group.slice(0, cut)), ...parted(group.slice(cut))];
  };
  const groupOf = new Array<number>(at.length).fill(0);
  for (const [number, group] of (order.length > 0 ? parted(order) : []).entries()) for (const index of group) groupOf[index] = number;
  return groupOf;
}

/**
 * Ratio of two series of readings minus 1 with its 95 % interval: the mean difference of logarithms at equal conditions, from the scatter
 * of repeats and of the differences themselves. Null where nothing was read alike, or nothing tells of the scatter.
 */
export function ratioAtEqual(before: readonly ReadAt[], after: readonly ReadAt[]): (WithInterval & { degreesOfFreedom: number }) | null {
  const groupOf = groupsAlike([...before, ...after].map(({ at }) => at));
  const group = (readings: readonly ReadAt[], first: number) => {
    const groups = new Map<number, number[]>();
    for (const [i, { value }] of readings.entries()) {
      const key = groupOf[first + i]!;
      groups.set(key, [...(groups.get(key) ?? []), Math.log(value)]);
    }
    return groups;
  };
  const [a, b] = [group(before, 0), group(after, before.length)];
  const common = [...a.keys()].filter((key) => b.has(key));
  if (common.length === 0) return null;
  const differences = common.map((key) => mean(b.get(key)!) - mean(a.get(key)!));
  const difference = mean(differences);
  // Scatter of a reading: of repeats about their own mean, and of the differences about theirs, as if they were readings too.
  let [squares, freedom, weight] = [0, 0, 0];
  for (const [i, key] of common.entries()) {
    const [x, y] = [a.get(key)!, b.get(key)!];
    squares += sumOfSquares(x) + sumOfSquares(y);
    freedom += x.length + y.length - 2;
    const perReading = 1 / (1 / x.length + 1 / y.length);
    squares += (differences[i]! - difference) ** 2 * perReading;
    weight += (1 / x.length + 1 / y.length) / common.length ** 2;
  }
  freedom += common.length - 1;
  if (freedom < 1) return null;
  const half = studentQuantile(freedom) * Math.sqrt((squares / freedom) * weight);
  return {
    value: Math.expm1(difference),
    low: Math.expm1(difference - half),
    high: Math.expm1(difference + half),
    degreesOfFreedom: freedom,
  };
}

/** Ratio of two sets of repeats minus 1 with its 95 % interval; all read alike. */
export function ratioOfMeans(before: readonly number[], after: readonly number[]): (WithInterval & { degreesOfFreedom: number }) | null {
  const alike = (values: readonly number[]) => values.map((value) => ({ at: 1, value }));
  return ratioAtEqual(alike(before), alike(after));
}

/**
 * Smallest difference of two means of so many readings each that a scatter lets be recognised on four days of five, unit of the scatter:
 * (t₀.₉₇₅ + t₀.₈₀) · s · √(2/n).
 */
export function smallestRecognisable(sd: number, degreesOfFreedom: number, readingsEach: number): number {
  return (studentQuantile(degreesOfFreedom) + studentQuantile(degreesOfFreedom, 0.8)) * sd * Math.sqrt(2 / readingsEach);
}
