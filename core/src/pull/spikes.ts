import type { Quantity } from '@gezeit/contract';
import { type Trace } from './traces.js';
import { median } from '../numeric/means.js';

/**
 * A sample is a spike where it leaves its neighbours' median by more than each of: a share of the channel's range in the sweep, a share
 * of the median itself, and a multiple of the neighbours' scatter.
 */
const SPIKE_RULES = { rangeShare: 0.06, ownShare: 0.05, timesScatter: 8, neighbours: 4 };

/** Channels in which a lone sample would shift the answer. */
const WATCHED: readonly Quantity[] = ['power', 'torque', 'engineSpeed', 'rollerSpeed', 'manifoldPressure', 'boostPressure', 'airMassFlow'];

/** The trace without lone spikes within a time window, and how many were masked. */
export function withoutSpikes(trace: Trace, startS: number, endS: number): { trace: Trace; masked: number } {
  const { timeS, values } = trace;
  if (!trace.column.quantity || !WATCHED.includes(trace.column.quantity)) return { trace, masked: 0 };
  const inside = (i: number) => timeS[i]! >= startS && timeS[i]! <= endS;
  const sorted = Float64Array.from(values.filter((_, i) => inside(i))).sort();
  if (sorted.length < 20) return { trace, masked: 0 };
  const low = sorted[Math.floor(0.02 * sorted.length)]!;
  const high = sorted[Math.floor(0.98 * sorted.length)]!;
  const span = SPIKE_RULES.neighbours;
  const keep: number[] = [];
  let masked = 0;
  for (let i = 0; i < values.length; i += 1) {
    if (!inside(i)) {
      keep.push(i);
      continue;
    }
    const around: number[] = [];
    for (let j = Math.max(0, i - span); j <= Math.min(values.length - 1, i + span); j += 1) if (j !== i) around.push(values[j]!);
    const centre = median(around);
    const apart = Math.abs(values[i]! - centre);
    const isFar = apart > SPIKE_RULES.rangeShare * (high - low) && apart > SPIKE_RULES.ownShare * Math.abs(centre);
    // The scatter is asked for where the rest does not say already that it is none.
    if (isFar && apart > SPIKE_RULES.timesScatter * (1.4826 * median(around.map((value) => Math.abs(value - centre))))) masked += 1;
    else keep.push(i);
  }
  if (masked === 0) return { trace, masked };
  const pick = (source: Float64Array) => Float64Array.from(keep, (i) => source[i]!);
  return { trace: { column: trace.column, timeS: pick(timeS), values: pick(values) }, masked };
}
