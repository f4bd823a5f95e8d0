import { movingMean, traceFor, type Trace } from './traces.js';
import type { LogTable } from '../log/log-table.js';
import { interpolate, lowerBound } from '../numeric/interpolate.js';

/** Thresholds by which a full-throttle sweep is found. */
const SWEEP_RULES = {
  /** Pedal or throttle above this is full throttle, %; a sensor that tops out lower counts from this share of its highest, if that is no part load. */
  openPct: 90,
  openShare: 0.95,
  leastOpenPct: 60,
  /** Shorter closings of the throttle belong to the pull (the ECU's doing), s. */
  bridgedS: 1.5,
  /** A sweep rises by at least this, rpm or its equal on the roller. */
  leastRiseRpm: 1000,
  /** Slower rises are no sweep, rpm/s. */
  leastSlopeRpmPerS: 60,
  /** Sweeps with this share of the largest rise are taken for pulls. */
  comparableRise: 0.6,
};

const SMOOTH_S = 0.3;

/** A full-throttle sweep in one log, s on that log's own clock. */
export interface Sweep {
  startS: number;
  endS: number;
  riseRpm: number;
}

/** The speed by which a log shows its sweeps: engine speed, else roller or vehicle speed scaled to look like it. */
export function sweepSpeed(table: LogTable): { trace: Trace; isEngine: boolean } | null {
  const engine = traceFor(table, 'engineSpeed');
  if (engine) return { trace: engine, isEngine: true };
  const roller = traceFor(table, 'rollerSpeed') ?? traceFor(table, 'vehicleSpeed');
  if (!roller) return null;
  const top = roller.values.reduce((a, b) => Math.max(a, b), 0);
  const scale = top > 0 ? NOMINAL_TOP_RPM / top : 1;
  return { trace: { ...roller, values: roller.values.map((value) => value * scale) }, isEngine: false };
}
const NOMINAL_TOP_RPM = 6500;

/** All sweeps of a log in time order, by pedal or throttle where logged, else by the rise of speed. */
export function findSweeps(table: LogTable): Sweep[] {
  const speed = sweepSpeed(table);
  if (!speed) return [];
  const { trace } = speed;
  const smooth = movingMean(trace.timeS, trace.values, SMOOTH_S);
  const open = traceFor(table, 'pedal') ?? traceFor(table, 'throttle');
  const spans = open ? openSpans(open) : risingSpans(trace.timeS, smooth);
  // Without throttle the lift is seen only in the smoothed speed, half its window late.
  const lateS = open ? 0 : SMOOTH_S / 2;
  return spans
    .flatMap(([fromS, toS]) => sweepWithin(trace.timeS, smooth, fromS, toS))
    .map((sweep) => ({ ...sweep, endS: sweep.endS - lateS }));
}

/**
 * Sweeps of a size with the largest: those that are pulls rather than runs through the gears.
 * @param onlyLargest where a log without throttle holds one pull, a run through the gears may look like another: the largest is it.
 */
export function pullSweeps(sweeps: Sweep[], onlyLargest = false): Sweep[] {
  const largest = sweeps.reduce((most, { riseRpm }) => Math.max(most, riseRpm), 0);
  if (onlyLargest) return sweeps.filter(({ riseRpm }) => riseRpm === largest).slice(0, 1);
  return sweeps.filter(({ riseRpm }) => riseRpm >= SWEEP_RULES.comparableRise * largest);
}

/** Stretches of full throttle in a throttle's or pedal's trace, short closings bridged, s. */
export function openSpans(open: Trace): [number, number][] {
  const spans: [number, number][] = [];
  const { timeS, values } = open;
  const highest = values.reduce((most, value) => Math.max(most, value), 0);
  if (highest < SWEEP_RULES.leastOpenPct) return spans;
  const fully = Math.min(SWEEP_RULES.openPct, SWEEP_RULES.openShare * highest);
  for (let i = 0; i < values.length; i += 1) {
    if (values[i]! < fully) continue;
    const last = spans.at(-1);
    if (last && timeS[i]! - last[1] <= SWEEP_RULES.bridgedS) last[1] = timeS[i]!;
    else spans.push([timeS[i]!, timeS[i]!]);
  }
  return spans;
}

function risingSpans(timeS: Float64Array, smooth: Float64Array): [number, number][] {
  const spans: [number, number][] = [];
  for (let i = 0; i < timeS.length; i += 1) {
    const before = interpolate(timeS, smooth, timeS[i]! - SMOOTH_S);
    const slope = (smooth[i]! - before) / SMOOTH_S;
    if (!(slope > SWEEP_RULES.leastSlopeRpmPerS)) continue;
    const last = spans.at(-1);
    if (last && timeS[i]! - last[1] <= 2 * SMOOTH_S) last[1] = timeS[i]!;
    else spans.push([timeS[i]! - SMOOTH_S, timeS[i]!]);
  }
  return spans;
}

/** From full throttle to the highest speed within the span; none where the speed rises too little. */
function sweepWithin(timeS: Float64Array, smooth: Float64Array, fromS: number, toS: number): Sweep[] {
  let top = -1;
  let bottom = -1;
  const first = lowerBound(timeS, fromS);
  for (let i = first; i < timeS.length && timeS[i]! <= toS; i += 1) {
    if (top < 0 || smooth[i]! > smooth[top]!) top = i;
  }
  for (let i = first; i <= top; i += 1) {
    if (bottom < 0 || smooth[i]! < smooth[bottom]!) bottom = i;
  }
  if (top < 0 || bottom < 0) return [];
  const riseRpm = smooth[top]! - smooth[bottom]!;
  return riseRpm >= SWEEP_RULES.leastRiseRpm ? [{ startS: fromS, endS: timeS[top]!, riseRpm }] : [];
}
