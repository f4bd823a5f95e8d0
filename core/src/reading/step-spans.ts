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
  /** Air and sensors follow the throttle by about this, s. */
  lagS: 0.1,
  /** Stretches of this share of the highest are taken for pulls. */
  comparable: 0.6,
};

/** The channel by which full throttle is seen in a device without speed; null where there is none. */
export function steppingTrace(table: LogTable): (Trace & { quantity: Quantity }) | null {
  for (const quantity of STEPPING) {
    const trace = traceFor(table, quantity);
    if (!trace || trace.timeS.length < 10) continue;
    const sign = FALLING.includes(quantity) ? -1 : 1;
    const values = movingMean(trace.timeS, sign === 1 ? trace.values : trace.values.map((value) => -value), STEP_RULES.smoothS);
    return { ...trace, values, quantity };
  }
  return null;
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

/** When the channel falls back: where it passes half of the way between its level and what it falls to. */
function fallOf(timeS: Float64Array, values: Float64Array, from: number, to: number): number {
  let last = Math.min(values.length - 1, to + 1);
  while (last < values.length - 1 && timeS[last]! - timeS[to]! < STEP_RULES.settledS) last += 1;
  // Its level before the fall: the highest of its last second.
  let level = values[to]!;
  for (let i = to; i >= from && timeS[to]! - timeS[i]! <= STEP_RULES.levelS; i -= 1) level = Math.max(level, values[i]!);
  const half = (level + values[last]!) / 2;
  for (let i = last; i > from; i -= 1) {
    if (!(values[i - 1]! >= half && values[i]! < half)) continue;
    const share = (values[i - 1]! - half) / (values[i - 1]! - values[i]!);
    return timeS[i - 1]! + share * (timeS[i]! - timeS[i - 1]!) - STEP_RULES.lagS;
  }
  return timeS[to]!;
}
