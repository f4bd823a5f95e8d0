import { lowerBound } from '../numeric/interpolate.js';
import { median, movingMedian } from '../numeric/means.js';
import type { Trace } from './traces.js';

/** Which column of which device it is. */
interface FaultyChannel {
  /** Key of the channel in a curve. */
  key: string;
  file: string;
  device: string;
}

/** A stretch of one channel within a sweep; times are s after full throttle, values in the unit kept inside. */
interface Stretch extends FaultyChannel {
  column: string;
  fromS: number;
  toS: number;
}

/** The same value, sample after sample. */
export interface FlatStretch extends Stretch {
  kind: 'flat';
  value: number;
  samples: number;
  /** Logarithm of the chance that the channel's own noise gives so many equal readings in a row. */
  lnChance: number;
  /** Smallest step of the channel, and its scatter from sample to sample. */
  step: number;
  scatter: number;
  /** Whether nothing in the sweep lies beyond it. */
  atEnd: 'highest' | 'lowest' | null;
}

/** Away from one sample to the next, and as suddenly back, or for the rest of the sweep. */
export interface AwayStretch extends Stretch {
  kind: 'away';
  value: number;
  beside: number;
}

/** Short losses within the sweep, each shorter than what an engine or a roller could do of itself. */
interface DippingStretch extends Stretch {
  kind: 'dips';
  count: number;
  deepestPct: number;
}

export type ChannelFault = FlatStretch | AwayStretch | DippingStretch;

/** What is looked at; assumptions. */
const FAULT_RULES = {
  leastS: 0.25,
  flatSamples: 4,
  leastSamples: 12,
  /** A step from one sample to the next: of a temperature, K; of any other, a share of what the channel usually reads. */
  awayK: 15,
  awayShare: 0.4,
  /** While away it stays within this share of the step. */
  awaySpread: 0.15,
  /** A dip: this share under the course of half a second, and so many times the scatter; no longer than this, s; so many of them. */
  dipShare: 0.03,
  dipScatters: 6,
  dipS: 0.3,
  dips: 3,
};

/** A scatter under so many steps of the channel tells nothing of equal readings. Assumption. */
const COARSE = 2;

/** Channels that move in every sweep: the same reading twice is a chance, many times a fault. */
const MOVING =
  /^(engineSpeed|vehicleSpeed|rollerSpeed|power|torque|manifoldPressure|boostPressure|inletPressure|airMassFlow|airMeterFrequency|pressureDrop.*|compressorSpeed)$/;
/** Channels that the engine control itself may move from one sample to the next. */
const SUDDEN =
  /^(throttle|pedal|ignitionAdvance|knockRetard|wastegateDuty|gear|lap|flapPosition|shortTermTrim|longTermTrim|correctionFactor)$/;

/** What of a channel looks like its sensor or the logger within a sweep; the trace is as logged, spikes and all. */
export function channelFaults(trace: Trace, channel: FaultyChannel, startS: number, endS: number): ChannelFault[] {
  const from = lowerBound(trace.timeS, startS);
  const to = lowerBound(trace.timeS, endS);
  const timeS = trace.timeS.subarray(from, to).map((at) => at - startS);
  const values = trace.values.subarray(from, to);
  const named = { ...channel, column: trace.column.name };
  const found: ChannelFault[] = SUDDEN.test(channel.key) ? [] : awayStretches(timeS, values, named);
  if (values.length < FAULT_RULES.leastSamples) return found;
  if (MOVING.test(channel.key)) found.push(...flatStretches(timeS, values, named));
  if (channel.key === 'power' || channel.key === 'torque') found.push(...dipsOf(timeS, values, named));
  return found;
}

function flatStretches(timeS: Float64Array, values: Float64Array, named: FaultyChannel & { column: string }): FlatStretch[] {
  const runs: [number, number][] = [];
  for (let i = 1, from = 0; i <= values.length; i += 1) {
    if (i < values.length && values[i] === values[i - 1]) continue;
    const last = i - 1;
    if (last - from + 1 >= FAULT_RULES.flatSamples && timeS[last]! - timeS[from]! >= FAULT_RULES.leastS) runs.push([from, last]);
    from = i;
  }
  if (runs.length === 0) return [];
  const [lowest, highest] = extremes(values);
  const step = smallestStep(values, highest - lowest);
  const scatter = scatterOf(values, runs);
  return runs.map(([first, last]) => ({
    ...named,
    kind: 'flat',
    fromS: timeS[first]!,
    toS: timeS[last]!,
    value: values[first]!,
    samples: last - first + 1,
    // Of two readings next to each other, the chance of the same step of a normal scatter: step / (scatter √2π) at most.
    // Where a step is as large as the scatter, equal readings are the rule.
    lnChance: scatter > COARSE * step ? (last - first) * Math.log(Math.min(1, step / (scatter * Math.sqrt(2 * Math.PI)))) : 0,
    step,
    scatter,
    atEnd: values[first] === highest ? 'highest' : values[first] === lowest ? 'lowest' : null,
  }));
}

function extremes(values: Float64Array): [number, number] {
  let [lowest, highest] = [Infinity, -Infinity];
  for (const value of values) [lowest, highest] = [Math.min(lowest, value), Math.max(highest, value)];
  return [lowest, highest];
}

/** How fine the channel is written: the step of which all differences of readings are multiples, by Euclid; 0 where they have none in common. */
function smallestStep(values: Float64Array, range: number): number {
  const sorted = values.slice().sort();
  const least = 1e-5 * range;
  let step = 0;
  for (let i = 1; i < sorted.length; i += 1) {
    let [a, b] = [sorted[i]! - sorted[i - 1]!, step];
    // Readings that went through a unit are off by rounding.
    while (a > least) [a, b] = b === 0 ? [0, a] : a < b ? [b - a * Math.floor(b / a + 0.02), a] : [a - b * Math.floor(a / b + 0.02), b];
    step = Math.abs(b);
    if (step !== 0 && step <= least) return 0;
  }
  return step;
}

/** Scatter from sample to sample by second differences, outside of the flat stretches: a straight course leaves nothing. */
function scatterOf(values: Float64Array, runs: readonly [number, number][]): number {
  const isFlat = (i: number) => runs.some(([first, last]) => i > first && i < last);
  const second: number[] = [];
  for (let i = 1; i < values.length - 1; i += 1) if (!isFlat(i)) second.push(Math.abs(values[i - 1]! - 2 * values[i]! + values[i + 1]!));
  return second.length < 5 ? 0 : (1.4826 * median(second)) / Math.sqrt(6);
}

function awayStretches(timeS: Float64Array, values: Float64Array, named: FaultyChannel & { column: string }): AwayStretch[] {
  const isTemperature = /temperature$/i.test(named.key);
  if (values.length < 4 || !mayBeAway(values, isTemperature)) return [];
  const usual = median(values);
  const least = isTemperature ? FAULT_RULES.awayK : FAULT_RULES.awayShare * Math.abs(usual);
  if (!(least > 0)) return [];
  const usualS = median(timeS.subarray(1).map((at, i) => at - timeS[i]!));
  const found: AwayStretch[] = [];
  for (let i = 1; i < values.length; i += 1) {
    const jump = values[i]! - values[i - 1]!;
    if (!(Math.abs(jump) > least)) continue;
    let end = i;
    while (end + 1 < values.length && !(Math.abs(values[end + 1]! - values[end]!) > least / 2)) end += 1;
    const inside = values.subarray(i, end + 1);
    const [low, high] = extremes(inside);
    const isBack = end + 1 >= values.length || (values[end + 1]! - values[end]!) * jump < 0;
    // Coming back is no going away.
    const isAway = Math.abs(median(inside) - usual) > Math.abs(values[i - 1]! - usual);
    if (isBack && isAway && high - low <= FAULT_RULES.awaySpread * Math.abs(jump) && timeS[end]! - timeS[i]! + usualS >= FAULT_RULES.leastS)
      found.push({ ...named, kind: 'away', fromS: timeS[i]!, toS: timeS[end]!, value: median(inside), beside: values[i - 1]! });
    i = end;
  }
  return found;
}

/** Whether a step from one sample to the next is as large as one that goes away, by the least that the channel can usually read. */
function mayBeAway(values: Float64Array, isTemperature: boolean): boolean {
  let [largest, lowest, highest] = [0, values[0]!, values[0]!];
  for (let i = 1; i < values.length; i += 1) {
    const value = values[i]!;
    const jump = Math.abs(value - values[i - 1]!);
    if (jump > largest) largest = jump;
    if (value < lowest) lowest = value;
    if (value > highest) highest = value;
  }
  const leastUsual = lowest > 0 ? lowest : highest < 0 ? -highest : 0;
  return largest > (isTemperature ? FAULT_RULES.awayK : FAULT_RULES.awayShare * leastUsual);
}

function dipsOf(timeS: Float64Array, values: Float64Array, named: FaultyChannel & { column: string }): DippingStretch[] {
  const half = 0.25;
  const course = movingMedian(timeS, values, half, 5);
  const under = values.map((value, i) => course[i]! - value);
  const scatter = 1.4826 * median(under.filter(Number.isFinite).map(Math.abs));
  const step = smallestStep(values, extremes(values)[1] - extremes(values)[0]);
  const least = (i: number) => Math.max(FAULT_RULES.dipShare * course[i]!, FAULT_RULES.dipScatters * scatter, COARSE * step);
  const dips: { fromS: number; toS: number; deepest: number }[] = [];
  for (let i = 0; i < under.length; i += 1) {
    if (!(under[i]! > least(i))) continue;
    const first = i;
    let deepest = under[i]! / course[i]!;
    while (i + 1 < under.length && under[i + 1]! > least(i + 1) / 2) {
      i += 1;
      deepest = Math.max(deepest, under[i]! / course[i]!);
    }
    if (timeS[i]! - timeS[first]! <= FAULT_RULES.dipS) dips.push({ fromS: timeS[first]!, toS: timeS[i]!, deepest });
  }
  if (dips.length < FAULT_RULES.dips) return [];
  const deepestPct = 100 * Math.max(...dips.map(({ deepest }) => deepest));
  return [{ ...named, kind: 'dips', fromS: dips[0]!.fromS, toS: dips.at(-1)!.toS, count: dips.length, deepestPct }];
}
