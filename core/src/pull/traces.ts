import type { Quantity } from '@gezeit/contract';
import type { LogColumn, LogTable } from '../log/log-table.js';
import { madeOnce } from '../made-once.js';
import { lowerBound } from '../numeric/interpolate.js';

/** One channel as samples in time: only rows where it was logged, seconds on the logger's own clock, values as in the column. */
export interface Trace {
  column: LogColumn;
  timeS: Float64Array;
  values: Float64Array;
}

/** Whether every row has a time, ascending; kept for each table's clock. */
const hasEveryTime = madeOnce((timeS: Float64Array): boolean => {
  let whole = timeS.length > 0 && Number.isFinite(timeS[0]!);
  for (let i = 1; whole && i < timeS.length; i += 1) whole = timeS[i]! >= timeS[i - 1]!;
  return whole;
});

/** No engine of a car turns faster, rpm: a sample beyond it is a broken cell, and counts as a blank. An assumption. */
export const MOST_ENGINE_SPEED_RPM = 30_000;

/** Samples of a column without its blanks, between two times where they are given; null where nothing is left. */
export function traceOf(table: LogTable, column: LogColumn, fromS = -Infinity, toS = Infinity): Trace | null {
  if (!table.timeS) return null;
  // A pull of a long log is looked for where it lies: the whole is walked through only where rows lack a time.
  const isWhole = hasEveryTime(table.timeS);
  const first = isWhole ? lowerBound(table.timeS, fromS) : 0;
  let most = isWhole ? lowerBound(table.timeS, toS) : column.values.length;
  while (most < column.values.length && table.timeS[most]! <= toS) most += 1;
  const timeS = new Float64Array(Math.max(0, most - first));
  const values = new Float64Array(timeS.length);
  const largest = column.quantity === 'engineSpeed' ? MOST_ENGINE_SPEED_RPM : Number.MAX_VALUE;
  let count = 0;
  for (let i = first; i < most; i += 1) {
    const time = table.timeS[i]!;
    if (!(time >= fromS) || !(time <= toS) || !(Math.abs(column.values[i]!) <= largest)) continue;
    timeS[count] = time;
    values[count] = column.values[i]!;
    count += 1;
  }
  return count === 0 ? null : { column, timeS: timeS.slice(0, count), values: values.slice(0, count) };
}

/** How many samples of engine speed between two times no engine reaches: they count as blanks. */
export function impossibleSpeeds({ columns, timeS }: LogTable, fromS: number, toS: number): number {
  const speeds = columns.find(({ quantity }) => quantity === 'engineSpeed')?.values ?? new Float64Array();
  return speeds.reduce(
    (count, speed, i) =>
      count + Number(timeS !== null && timeS[i]! >= fromS && timeS[i]! <= toS && Math.abs(speed) > MOST_ENGINE_SPEED_RPM),
    0,
  );
}

/** The trace of a quantity, or null. */
export function traceFor(table: LogTable, quantity: Quantity): Trace | null {
  const column = table.columns.find((entry) => entry.quantity === quantity);
  return column ? traceOf(table, column) : null;
}

/** The part of a trace between two times, both ends included; it shares its samples. */
export function traceBetween(trace: Trace, fromS: number, toS: number): Trace {
  const first = lowerBound(trace.timeS, fromS);
  let last = lowerBound(trace.timeS, toS);
  while (last < trace.timeS.length && trace.timeS[last]! <= toS) last += 1;
  return { column: trace.column, timeS: trace.timeS.subarray(first, last), values: trace.values.subarray(first, last) };
}

/** Samples of a trace within a time window, both ends included. */
export function samplesBetween(trace: Trace, fromS: number, toS: number): Float64Array {
  return traceBetween(trace, fromS, toS).values;
}

/** Centred moving mean over a span of time, s. */
export function movingMean(timeS: Float64Array, values: Float64Array, spanS: number): Float64Array {
  const smooth = new Float64Array(values.length);
  let from = 0;
  let to = 0;
  let sum = 0;
  for (let i = 0; i < values.length; i += 1) {
    while (to < values.length && timeS[to]! <= timeS[i]! + spanS / 2) sum += values[to++]!;
    while (timeS[from]! < timeS[i]! - spanS / 2) sum -= values[from++]!;
    smooth[i] = sum / (to - from);
  }
  return smooth;
}
