import type { Quantity } from '@gezeit/contract';
import { type Trace } from './traces.js';
import { lowerBound } from '../numeric/interpolate.js';
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
  const first = lowerBound(timeS, startS);
  let end = lowerBound(timeS, endS);
  while (end < timeS.length && timeS[end]! <= endS) end += 1;
  const sorted = values.slice(first, end).sort();
  if (sorted.length < 20) return { trace, masked: 0 };
  const low = sorted[Math.floor(0.02 * sorted.length)]!;
  const high = sorted[Math.floor(0.98 * sorted.length)]!;
  const spikes = new Set<number>();
  for (let i = first; i < end; i += 1) if (isSpike(values, i, SPIKE_RULES.rangeShare * (high - low))) spikes.add(i);
  if (spikes.size === 0) return { trace, masked: 0 };
  const kept = (source: Float64Array) => source.filter((_, i) => !spikes.has(i));
  return { trace: { column: trace.column, timeS: kept(timeS), values: kept(values) }, masked: spikes.size };
}

/** @param least how far a spike leaves its neighbours' median at least. */
function isSpike(values: Float64Array, i: number, least: number): boolean {
  const from = Math.max(0, i - SPIKE_RULES.neighbours);
  const to = Math.min(values.length - 1, i + SPIKE_RULES.neighbours);
  let near = 0;
  for (let j = from; j <= to; j += 1) if (j !== i && Math.abs(values[j]! - values[i]!) <= least) near += 1;
  // Where more than half of them are so near their median is: hardly a sample is looked at further.
  if (2 * near > to - from) return false;
  const around: number[] = [];
  for (let j = from; j <= to; j += 1) if (j !== i) around.push(values[j]!);
  const centre = median(around);
  const apart = Math.abs(values[i]! - centre);
  const isFar = apart > least && apart > SPIKE_RULES.ownShare * Math.abs(centre);
  return isFar && apart > SPIKE_RULES.timesScatter * (1.4826 * median(around.map((value) => Math.abs(value - centre))));
}
