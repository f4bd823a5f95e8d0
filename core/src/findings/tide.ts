import type { Tide } from '@gezeit/contract';
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

/** The day's heat state as a water line: logged where a log covers it, a fitted recovery between, a gap where there is neither. */
export function tideOf(pulls: AnalysedPull[]): Tide {
  const source = pulls.some((entry) => logged(entry, 'intakeAirTemperature'))
    ? 'intakeAir'
    : pulls.some((entry) => logged(entry, 'coolantTemperature'))
      ? 'coolant'
      : 'pulls';
  const sourceText = {
    intakeAir: 'intake air above ambient, K; dashed: fitted recovery',
    coolant: 'no intake air temperature logged: coolant above ambient, K; dashed: fitted recovery',
    pulls: 'no temperature logged: drawn from pulls and pauses alone',
  }[source];
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
  return { source, sourceText, pulls: tidePulls, stretches: withRecoveries(stretches, pulls) };
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

/** Between two logged stretches of one day: an exponential towards ambient through both ends, or a straight line where it rises. */
function withRecoveries(stretches: Stretch[], pulls: AnalysedPull[]): Stretch[] {
  const days = pulls.map(({ place }) => place.day);
  return stretches.flatMap((stretch, i) => {
    const next = stretches[i + 1];
    if (!next || (days[i] !== days[i + 1] && stretches.length === pulls.length)) return [stretch];
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
