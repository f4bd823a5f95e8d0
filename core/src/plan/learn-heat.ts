import type { Tide } from '@gezeit/contract';
import type { HeatForecast } from './forecast.js';
import { median } from '../numeric/means.js';

/** How a forecast's constants were found. */
export interface LearnedHeat extends HeatForecast {
  /** Recoveries that they were fitted to, and how far they miss them, K. */
  recoveries: number;
  missK: number;
}

const QUICK_S = [30, 50, 70, 100, 140];
const SLOW_S = [250, 400, 600, 900, 1400, 2000];
const SHARES = [0.4, 0.5, 0.6, 0.7, 0.8, 0.9];
/** Fewer recoveries say too little. */
const LEAST = 3;
const LONGEST_REST_S = 6 * 3600;

/**
 * Heat constants from the days that a car has had: what a pull adds, and two masses whose ebb meets the next starts best (formula i7).
 * Null where fewer than three recoveries were logged; then the assumption stands.
 */
export function learnHeat({ pulls }: Pick<Tide, 'pulls'>): LearnedHeat | null {
  const known = pulls.filter((pull): pull is typeof pull & { startK: number; endK: number } => pull.startK !== null && pull.endK !== null);
  const recoveries = known.flatMap((pull, i) => {
    const next = known[i + 1];
    const restS = next ? (next.startMs - pull.endMs) / 1000 : 0;
    return next && restS > 0 && restS < LONGEST_REST_S ? [{ from: pull, to: next, restS }] : [];
  });
  if (recoveries.length < LEAST) return null;
  const firstK = toTenth(Math.min(...known.map(({ startK }) => startK)));
  const perPullK = toTenth(median(known.map(({ startK, endK }) => Math.max(0, endK - startK))));
  let best: LearnedHeat | null = null;
  for (const quickS of QUICK_S)
    for (const slowS of SLOW_S)
      for (const quickShare of SHARES) {
        const heat: HeatForecast = { perPullK, firstK, standingK: firstK, quickS, slowS, quickShare };
        const missK = missOf(recoveries, heat);
        if (!best || missK < best.missK) best = { ...heat, recoveries: recoveries.length, missK };
      }
  return best;
}

/** No sensor in a tract says more than a tenth of a kelvin, and a field that shows more is not believed. */
const toTenth = (kelvin: number) => Number(kelvin.toFixed(1));

/** Root mean square of what a forecast of each recovery misses; the standing level is the coolest start of the record. */
function missOf(
  recoveries: readonly { from: { endK: number; startK: number }; to: { startK: number }; restS: number }[],
  { quickS, slowS, quickShare, standingK }: HeatForecast,
): number {
  const squares = recoveries.map(({ from, to, restS }) => {
    const quick = quickShare * (from.endK - from.startK);
    const slow = from.endK - standingK - quick;
    const told = standingK + quick * Math.exp(-restS / quickS) + slow * Math.exp(-restS / slowS);
    return (told - to.startK) ** 2;
  });
  return Math.sqrt(squares.reduce((sum, value) => sum + value, 0) / squares.length);
}
