import type { AnalysedPull } from './analysed-pull.js';

/**
 * Pulls one after the other of one setup, each so soon after the one before that it had no time to cool; so many make a series. A change within
 * a series goes with its start temperature, per K, and with so much of the day's drift. Assumptions.
 */
export const FADE_RULES = {
  restMin: 4,
  leastPulls: 3,
  start: { K: { mean: -0.3, sd: 0.3 }, pct: { mean: 0, sd: 0.001 } },
  driftShare: 0.1,
};

/** Series of pulls with short rests, each by its first pull; a conditioning pull in between ends one. */
export function fadeSeries(pulls: readonly AnalysedPull[]): Map<AnalysedPull, AnalysedPull[]> {
  const found = new Map<AnalysedPull, AnalysedPull[]>();
  let series: AnalysedPull[] = [];
  for (const entry of pulls) {
    const last = series.at(-1);
    const isNext =
      last !== undefined &&
      entry.pull.setup === last.pull.setup &&
      entry.pull.kind === 'measured' &&
      entry.place.day === last.place.day &&
      entry.place.timeH - last.place.timeH <= (FADE_RULES.restMin + sweepMin(last)) / 60;
    if (isNext) series.push(entry);
    else series = entry.pull.kind === 'measured' ? [entry] : [];
    if (series.length >= FADE_RULES.leastPulls) found.set(series[0]!, series);
  }
  return found;
}

const sweepMin = ({ curve }: AnalysedPull) => (curve && Number.isFinite(curve.endS) ? (curve.endS - curve.startS) / 60 : 0);

/** Up to which pull both setups can be compared: the shortest of their longest series; null where one has none. */
export function comparableLength(series: ReadonlyMap<AnalysedPull, AnalysedPull[]>, setups: readonly string[]): number | null {
  const longest = setups.map((setup) =>
    Math.max(0, ...[...series.values()].filter(([first]) => first!.pull.setup === setup).map(({ length }) => length)),
  );
  const least = Math.min(...longest);
  return least >= FADE_RULES.leastPulls ? least : null;
}
