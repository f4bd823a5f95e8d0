import { readName } from '../channels/name-evidence.js';
import type { LogTable } from '../log/log-table.js';

/** When a device's trigger came on and went off, ascending, and how finely it was logged; s on the table's clock. */
export interface TriggerEdges {
  onS: number[];
  offS: number[];
  stepS: number;
}

/** A stretch on a table's clock, s. */
export type Window = readonly [fromS: number, toS: number];

/** Assumptions. */
const TRIGGER_RULES = {
  /** A trigger stands at one of two levels: so many of its samples within this share of the range from either. */
  levelShare: 0.98,
  nearShare: 0.1,
  /** What comes and goes more often than this in an hour is no trigger but a signal. */
  mostAnHour: 240,
  /** Of the edges that both devices could have seen so many must agree. */
  agreeing: 0.6,
  /** The middle between two samples is off by half a step at most on either side: so much of their root sum of squares holds 95 %. */
  sampling: 1.1,
  /** What relays and inputs add, ± at 95 %, s. */
  inputS: 0.008,
  /** Before a sweep and behind it its trigger is looked for, s. */
  beforeS: 15,
  behindS: 10,
  /** Edges nearer than this belong to one pull, s. */
  onePullS: 45,
};

/** Edges of the column whose name says trigger and whose values stand at two levels; null where there is none. */
export function triggerEdges({ columns, timeS }: LogTable): TriggerEdges | null {
  if (!timeS || timeS.length < 3) return null;
  for (const { quantity, name, values } of columns) {
    if (quantity !== null || !readName(name).concepts.has('trigger')) continue;
    const edges = edgesOf(timeS, values);
    if (edges) return edges;
  }
  return null;
}

function edgesOf(timeS: Float64Array, values: Float64Array): TriggerEdges | null {
  let [low, high] = [Infinity, -Infinity];
  for (const value of values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  const range = high - low;
  if (!(range > 0) || !Number.isFinite(range)) return null;
  const near = TRIGGER_RULES.nearShare * range;
  const edges: TriggerEdges = { onS: [], offS: [], stepS: 0 };
  const steps: number[] = [];
  let [atLevel, known, last] = [0, 0, -1];
  for (let i = 0; i < values.length; i += 1) {
    if (!Number.isFinite(values[i]!)) continue;
    known += 1;
    if (values[i]! - low <= near || high - values[i]! <= near) atLevel += 1;
    const isOn = values[i]! > low + range / 2;
    if (last >= 0 && isOn !== values[last]! > low + range / 2) {
      (isOn ? edges.onS : edges.offS).push((timeS[last]! + timeS[i]!) / 2);
      steps.push(timeS[i]! - timeS[last]!);
    }
    last = i;
  }
  const hours = Math.max(1 / 60, (timeS.at(-1)! - timeS[0]!) / 3600);
  if (atLevel < TRIGGER_RULES.levelShare * known || steps.length === 0 || steps.length > Math.max(8, TRIGGER_RULES.mostAnHour * hours))
    return null;
  return { ...edges, stepS: steps.sort((a, b) => a - b)[steps.length >> 1]! };
}

/** Where the trigger of a sweep is to be looked for. */
export const triggerWindow = (startS: number, endS: number): Window => [startS - TRIGGER_RULES.beforeS, endS + TRIGGER_RULES.behindS];

/** Stretches in which a trigger came on, one a pull, from its first edge to its last. */
export function triggeredStretches({ onS, offS }: TriggerEdges): { startS: number; endS: number }[] {
  const stretches: { startS: number; endS: number }[] = [];
  for (const edge of [...onS, ...offS].sort((a, b) => a - b)) {
    const last = stretches.at(-1);
    if (last && edge - last.endS <= TRIGGER_RULES.onePullS) last.endS = edge;
    else stretches.push({ startS: edge, endS: edge });
  }
  return stretches;
}

/**
 * How the clocks of two devices stand that saw the same trigger: the offset at which their edges agree, second minus first, and its 95 %
 * half width, s. Null where they share too few edges, or where more than one offset fits.
 */
export function offsetByTrigger(
  first: TriggerEdges,
  firstIn: Window,
  second: TriggerEdges,
  secondIn: Window,
): { offsetS: number; withinS: number } | null {
  const within = (times: readonly number[], [from, to]: Window) => times.filter((time) => time >= from && time <= to);
  const [onA, offA] = [within(first.onS, firstIn), within(first.offS, firstIn)];
  const [onB, offB] = [within(second.onS, secondIn), within(second.offS, secondIn)];
  const apartS = first.stepS + second.stepS + TRIGGER_RULES.inputS;
  const seen = Math.min(onA.length + offA.length, onB.length + offB.length);
  if (seen === 0) return null;
  const pairsAt = (offsetS: number) =>
    [
      [onA, onB],
      [offA, offB],
    ].flatMap(([a, b]) =>
      a!.flatMap((time) => {
        const differences = b!.map((other) => other - time).filter((difference) => Math.abs(difference - offsetS) <= apartS);
        return differences.sort((x, y) => Math.abs(x - offsetS) - Math.abs(y - offsetS)).slice(0, 1);
      }),
    );
  const tried = [...onA.flatMap((a) => onB.map((b) => b - a)), ...offA.flatMap((a) => offB.map((b) => b - a))]
    .map(pairsAt)
    .sort((a, b) => b.length - a.length);
  const best = tried[0];
  if (!best || best.length < TRIGGER_RULES.agreeing * seen) return null;
  const offsetOf = (pairs: readonly number[]) => pairs.reduce((sum, value) => sum + value, 0) / pairs.length;
  const offsetS = offsetOf(best);
  if (tried.some((pairs) => pairs.length === best.length && Math.abs(offsetOf(pairs) - offsetS) > 2 * apartS)) return null;
  const samplingS = (TRIGGER_RULES.sampling * Math.hypot(first.stepS, second.stepS)) / 2;
  return { offsetS, withinS: Math.hypot(samplingS, TRIGGER_RULES.inputS) };
}
