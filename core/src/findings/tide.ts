import type { Day, Tide } from '@gezeit/contract';
import type { HeatQuantity } from '../pull/heat-course.js';
import type { AnalysedPull } from '../compare/analysed-pull.js';

type Stretch = Tide['stretches'][number];

/** Points a fitted stretch is drawn with. */
const FITTED_POINTS = 24;
/** A recovery that has not fallen (or has no ambient to fall to) is drawn straight. */
const LEAST_FALL = 1.02;
/** Where nothing is logged: a pull adds this much, and it ebbs with this time constant; a picture of pulls and pauses, no temperature. */
const PULSE_K = 10;
const PULSE_TAU_S = 420;

/**
 * The day's heat state as a water line: logged where a log covers it, as it was streamed between the logs, a fitted recovery where nothing was, a gap
 * where there is neither.
 */
export function tideOf(pulls: AnalysedPull[], days: readonly Day[] = []): Tide {
  const source = pulls.some((entry) => logged(entry, 'intakeAirTemperature'))
    ? 'intakeAir'
    : pulls.some((entry) => logged(entry, 'coolantTemperature'))
      ? 'coolant'
      : 'pulls';
  const quantity = source === 'coolant' ? 'coolantTemperature' : 'intakeAirTemperature';
  const stretches: Stretch[] = [];
  const tidePulls: Tide['pulls'] = [];
  let level = 0;
  let levelAtMs = 0;
  for (const entry of pulls) {
    const startMs = Date.parse(entry.pull.startedAt);
    const lengthS = entry.curve && Number.isFinite(entry.curve.endS) ? entry.curve.endS - entry.curve.startS : 10;
    const endMs = startMs + 1000 * lengthS;
    let line = source === 'pulls' ? null : logged(entry, quantity);
    if (source === 'pulls') {
      level *= Math.exp(-(startMs - levelAtMs) / 1000 / PULSE_TAU_S);
      line = { kind: 'fitted', atMs: [startMs, endMs], valueK: [level, level + PULSE_K] };
      level += PULSE_K;
      levelAtMs = endMs;
    }
    if (line) stretches.push(line);
    tidePulls.push({
      id: entry.pull.id,
      setup: entry.pull.setup,
      kind: entry.pull.kind,
      status: entry.used ? 'used' : 'excluded',
      startMs,
      endMs,
      startK: line ? valueAt(line, startMs) : null,
      endK: line ? valueAt(line, endMs) : null,
    });
  }
  const streamed = source === 'pulls' ? [] : streamedOf(days, source === 'coolant' ? 'coolantC' : 'intakeAirC', pulls);
  return { source, pulls: tidePulls, stretches: withRecoveries(withStreamed(stretches, streamed), pulls) };
}

function logged({ heat }: AnalysedPull, quantity: HeatQuantity): Stretch | null {
  const course = heat?.[quantity];
  return course ? { kind: 'logged', atMs: course.atMs, valueK: course.aboveAmbientK } : null;
}

function valueAt({ atMs, valueK }: Stretch, ms: number): number {
  let best = 0;
  atMs.forEach((at, i) => {
    if (Math.abs(at - ms) < Math.abs(atMs[best]! - ms)) best = i;
  });
  return valueK[best]!;
}

interface Reading {
  atMs: number;
  valueK: number;
}

/** A log begins so long before its pull, ms. */
const BEFORE_PULL_MS = 60_000;

/** Samples of one stretch lie no farther apart, ms: a device that was silent for longer leaves a gap to be fitted. */
const SILENT_MS = 120_000;

/** What was streamed, above the ambient of that moment; where that was not streamed, above what the nearest pull had. */
function streamedOf(days: readonly Day[], field: 'intakeAirC' | 'coolantC', pulls: readonly AnalysedPull[]): Reading[] {
  const known = pulls.flatMap(({ pull, air }) => (air ? [{ atMs: Date.parse(pull.startedAt), ambientC: air.temperatureC }] : []));
  const nearest = (at: number) =>
    known.reduce<(typeof known)[number] | null>((a, b) => (a && Math.abs(a.atMs - at) <= Math.abs(b.atMs - at) ? a : b), null)?.ambientC ??
    null;
  return days
    .flatMap(({ temperatures }) =>
      (temperatures?.atMs ?? []).flatMap((atMs, i) => {
        const value = temperatures![field][i] ?? null;
        const ambientC = temperatures!.ambientC[i] ?? nearest(atMs);
        return value === null || ambientC === null ? [] : [{ atMs, valueK: value - ambientC }];
      }),
    )
    .sort((a, b) => a.atMs - b.atMs);
}

/** Between the logs of the pulls, what was streamed. */
function withStreamed(stretches: readonly Stretch[], streamed: readonly Reading[]): Stretch[] {
  if (streamed.length === 0) return [...stretches];
  return stretches.flatMap((stretch, i) => {
    const next = stretches[i + 1];
    if (!next) return [stretch];
    const between = streamed.filter(({ atMs }) => atMs > stretch.atMs.at(-1)! && atMs < next.atMs[0]!);
    const runs: Reading[][] = [];
    for (const reading of between) {
      if (runs.length === 0 || reading.atMs - runs.at(-1)!.at(-1)!.atMs > SILENT_MS) runs.push([]);
      runs.at(-1)!.push(reading);
    }
    const drawn = runs.filter((run) => run.length > 1);
    return [
      stretch,
      ...drawn.map((run): Stretch => ({ kind: 'logged', atMs: run.map(({ atMs }) => atMs), valueK: run.map(({ valueK }) => valueK) })),
    ];
  });
}

/** Between two logged stretches of one day: an exponential towards ambient through both ends, or a straight line where it rises. */
function withRecoveries(stretches: Stretch[], pulls: AnalysedPull[]): Stretch[] {
  const dayAt = (ms: number) => pulls.findLast(({ pull }) => Date.parse(pull.startedAt) <= ms + BEFORE_PULL_MS)?.place.day;
  return stretches.flatMap((stretch, i) => {
    const next = stretches[i + 1];
    if (!next || dayAt(stretch.atMs[0]!) !== dayAt(next.atMs[0]!)) return [stretch];
    return [stretch, recovery(stretch, next)];
  });
}

function recovery(from: Stretch, to: Stretch): Stretch {
  const [startMs, endMs] = [from.atMs.at(-1)!, to.atMs[0]!];
  const [start, end] = [from.valueK.at(-1)!, to.valueK[0]!];
  const falls = start > 0 && end > 0 && start > end * LEAST_FALL;
  const rate = falls ? Math.log(start / end) : 0;
  const share = Array.from({ length: FITTED_POINTS + 1 }, (_, k) => k / FITTED_POINTS);
  return {
    kind: 'fitted',
    atMs: share.map((s) => startMs + s * (endMs - startMs)),
    valueK: share.map((s) => (falls ? start * Math.exp(-rate * s) : start + s * (end - start))),
  };
}
