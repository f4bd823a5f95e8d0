import type { Quantity } from '@gezeit/contract';
import type { LogTable } from '../log/log-table.js';
import { movingMean, traceFor, type Trace } from '../pull/traces.js';

/** A stretch in which a device without speed shows full throttle, s on its own clock. */
export interface StepSpan {
  startS: number;
  endS: number;
}

/** By what full throttle is seen where there is no speed, best first: what falls at once when the throttle shuts comes first. */
const STEPPING: readonly Quantity[] = [
  'boostPressure',
  'manifoldPressure',
  'airMassFlow',
  'airMeterFrequency',
  'pressureDrop',
  'preCoolerPressure',
  'postCoolerPressure',
  'wastegateDuty',
  'injectorTime',
  'exhaustPressure',
  'inletPressure',
  'compressorOutTemperature',
  'exhaustTemperature',
  'coolerOutTemperature',
  'intakeAirTemperature',
];
/** These follow the throttle late, by a time constant of their own; and where they hardly move it is not told whether full throttle warms or cools them. */
const SLOW: readonly Quantity[] = ['compressorOutTemperature', 'exhaustTemperature', 'coolerOutTemperature', 'intakeAirTemperature'];
/** These fall where the others rise. */
const FALLING: readonly Quantity[] = ['inletPressure'];

/** Assumptions. */
const STEP_RULES = {
  smoothS: 0.2,
  /** Above this share of its range a channel shows full throttle, and down to the lower one it still does. */
  highShare: 0.5,
  lowShare: 0.15,
  shortestS: 1,
  longestS: 60,
  /** A dip shorter than this belongs to the stretch, s. */
  bridgedS: 0.8,
  /** The level before a fall is looked for so far back, and what it falls to so far behind, s. */
  levelS: 1,
  settledS: 0.6,
  /** A temperature that moves by less than this shows no full throttle, K. */
  leastTemperatureK: 15,
  /** Nor does a channel that moves by less than so many times its scatter. */
  overNoise: 8,
  /** The throttle has shut where a channel has fallen to this share of its way. */
  fallenTo: 0.75,
  /** Air and sensors follow the throttle by about this, s. */
  lagS: 0.07,
  /** How near the end of full throttle is known by what follows it at once, and by a temperature, ± at 95 %, s. */
  withinS: 0.15,
  slowWithinS: 0.7,
  /** Stretches of this share of the highest are taken for pulls. */
  comparable: 0.6,
};

/** The channel by which full throttle is seen in a device without speed, and how near its end is known by it, ± at 95 %, s; null where there is none. */
export function steppingTrace(table: LogTable): (Trace & { withinS: number }) | null {
  for (const quantity of STEPPING) {
    const trace = traceFor(table, quantity);
    if (!trace || trace.timeS.length < 10) continue;
    const sign = FALLING.includes(quantity) ? -1 : 1;
    const values = movingMean(trace.timeS, sign === 1 ? trace.values : trace.values.map((value) => -value), STEP_RULES.smoothS);
    const isSlow = SLOW.includes(quantity);
    const least = isSlow ? STEP_RULES.leastTemperatureK : 0;
    if (!(rangeOf(values) >= Math.max(least, STEP_RULES.overNoise * noiseOf(trace.values)))) continue;
    return { ...trace, values, withinS: isSlow ? STEP_RULES.slowWithinS : STEP_RULES.withinS };
  }
  return null;
}

/** Scatter from sample to sample, as a standard deviation. */
function noiseOf(values: Float64Array): number {
  const steps = values.subarray(1).map((value, i) => Math.abs(value - values[i]!));
  return (1.4826 * steps.sort()[steps.length >> 1]!) / Math.SQRT2;
}

function rangeOf(values: Float64Array): number {
  const sorted = values.slice().sort();
  return sorted.at(-1)! - sorted[Math.floor(0.1 * (sorted.length - 1))]!;
}

/** The stretches of full throttle that such a channel shows, in time order. */
export function stepSpans({ timeS, values }: Pick<Trace, 'timeS' | 'values'>): StepSpan[] {
  const sorted = values.slice().sort();
  const [low, high] = [sorted[Math.floor(0.1 * (sorted.length - 1))]!, sorted.at(-1)!];
  const span = high - low;
  if (!(span > 0)) return [];
  const raw: { from: number; to: number; top: number }[] = [];
  const threshold = low + STEP_RULES.lowShare * span;
  for (let i = 0; i < values.length; i += 1) {
    if (!(values[i]! > threshold)) continue;
    const last = raw.at(-1);
    if (last && timeS[i]! - timeS[last.to]! <= STEP_RULES.bridgedS) {
      last.to = i;
      last.top = Math.max(last.top, values[i]!);
    } else raw.push({ from: i, to: i, top: values[i]! });
  }
  return raw
    .filter(({ top }) => top > low + Math.max(STEP_RULES.highShare, STEP_RULES.comparable) * span)
    .map(({ from, to }) => ({ startS: timeS[from]!, endS: fallOf(timeS, values, from, to) }))
    .filter(({ startS, endS }) => endS - startS >= STEP_RULES.shortestS && endS - startS <= STEP_RULES.longestS);
}

/** When the channel falls back: where it has gone a quarter of the way from its level to what it falls to; boost takes longer over the rest than a drop. */
function fallOf(timeS: Float64Array, values: Float64Array, from: number, to: number): number {
  let last = Math.min(values.length - 1, to + 1);
  while (last < values.length - 1 && timeS[last]! - timeS[to]! < STEP_RULES.settledS) last += 1;
  // Its level before the fall: the highest of its last second.
  let level = values[to]!;
  for (let i = to; i >= from && timeS[to]! - timeS[i]! <= STEP_RULES.levelS; i -= 1) level = Math.max(level, values[i]!);
  const passed = values[last]! + STEP_RULES.fallenTo * (level - values[last]!);
  for (let i = last; i > from; i -= 1) {
    if (!(values[i - 1]! >= passed && values[i]! < passed)) continue;
    const share = (values[i - 1]! - passed) / (values[i - 1]! - values[i]!);
    return timeS[i - 1]! + share * (timeS[i]! - timeS[i - 1]!) - STEP_RULES.lagS;
  }
  return timeS[to]!;
}
