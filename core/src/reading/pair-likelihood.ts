import { interpolate } from '../numeric/interpolate.js';
import { median } from '../numeric/means.js';
import type { SpeedMap } from '../pull/speed-map.js';
import type { SweepEvent } from './sweep-event.js';

const LEVELS = 31;
/** A likelihood from the shape of a sweep counts for no more than this, as log-odds. */
const MOST = 5;
/** Spread of the logarithm of a residual from pull to pull, at least. */
const LEAST_SPREAD = 0.35;

/**
 * The courses of one speed in two files of one pull cannot differ by more than this, s, and so much of what the sweep takes; log-odds of a pair
 * that does. Assumptions: a log of 2 Hz adds a tenth of a second, and clocks whose rates are apart by 3 per cent less than the half of the share.
 */
const COURSE_RULES = { apartS: 0.3, apartShare: 0.02, impossible: -20 };

/** How far the courses of two sweeps differ once one is shifted upon the other, s; null where they cannot be compared. */
function residualS(a: SweepEvent, b: SweepEvent): number | null {
  if (!a.map || !b.map) return null;
  const scale = a.by === b.by ? 1 : a.map.speed.at(-1)! / b.map.speed.at(-1)!;
  const differences = differencesS(a.map, b.map, scale);
  if (differences.length < LEVELS / 2) return null;
  const middle = median(differences);
  return Math.sqrt(differences.reduce((sum, value) => sum + (value - middle) ** 2, 0) / differences.length);
}

function differencesS(a: SpeedMap, b: SpeedMap, scale: number): number[] {
  const low = Math.max(a.speed[0]!, scale * b.speed[0]!);
  const high = Math.min(a.speed.at(-1)!, scale * b.speed.at(-1)!);
  const differences: number[] = [];
  for (let level = 0; level < LEVELS; level += 1) {
    const speed = low + (high - low) * (0.08 + (0.84 * level) / (LEVELS - 1));
    const difference = interpolate(b.speed, b.timeS, speed / scale) - interpolate(a.speed, a.timeS, speed);
    if (Number.isFinite(difference)) differences.push(difference);
  }
  return differences;
}

/** Whether both log the same speed and passed it so differently that they are no one pull. */
function isImpossible(a: SweepEvent, b: SweepEvent): boolean {
  if (a.by !== b.by) return false;
  const apartS = residualS(a, b);
  if (apartS === null) return false;
  const tookS = Math.max(...[a, b].map(({ map }) => map!.timeS.at(-1)! - map!.timeS[0]!));
  return apartS > COURSE_RULES.apartS + COURSE_RULES.apartShare * tookS;
}

/**
 * How much likelier it is that two sweeps are one pull than that they are two, by their course: log-odds for each pair. What "alike" means is
 * learned from the sweeps themselves; 0 where the courses of all pulls are alike, or cannot be compared. What cannot be one pull is none,
 * however few there are.
 */
export function shapeOdds(left: readonly (readonly SweepEvent[])[], right: readonly SweepEvent[]): number[][] {
  const odds = learnedOdds(left, right);
  return odds.map((row, i) =>
    row.map((value, j) => (left[i]!.some((event) => isImpossible(event, right[j]!)) ? COURSE_RULES.impossible : value)),
  );
}

function learnedOdds(left: readonly (readonly SweepEvent[])[], right: readonly SweepEvent[]): number[][] {
  const residuals = left.map((events) =>
    right.map((event) => {
      const known = events.map((other) => residualS(other, event)).filter((value) => value !== null);
      return known.length > 0 ? Math.min(...known) : null;
    }),
  );
  const all = residuals
    .flat()
    .filter((value) => value !== null)
    .map((value) => Math.log(value + 1e-4));
  if (left.length < 3 || right.length < 2 || all.length < 6) return residuals.map((row) => row.map(() => 0));
  const nearest = right.map((_, j) => Math.min(...residuals.map((row) => Math.log((row[j] ?? Infinity) + 1e-4)))).filter(Number.isFinite);
  const [same, other] = [median(nearest), median(all)];
  const spread = Math.max(LEAST_SPREAD, median(all.map((value) => Math.abs(value - other))) * 1.4826);
  const sameSpread = Math.max(LEAST_SPREAD, median(nearest.map((value) => Math.abs(value - same))) * 1.4826);
  const density = (value: number, centre: number, width: number) => -0.5 * ((value - centre) / width) ** 2 - Math.log(width);
  return residuals.map((row) =>
    row.map((value) => {
      if (value === null) return 0;
      const logged = Math.log(value + 1e-4);
      // Nearer than the nearest is no reason against a pair.
      const asSame = density(Math.max(logged, same), same, sameSpread);
      const asOther = density(Math.max(logged, same), other, spread);
      return Math.max(-MOST, Math.min(MOST, asSame - asOther));
    }),
  );
}
