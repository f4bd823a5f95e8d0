import type { Quantity } from '@gezeit/contract';
import type { LogColumn, LogTable } from '../log/read-log.js';

/** One channel as samples in time: only rows where it was logged, seconds on the logger's own clock, values as in the column. */
export interface Trace {
  column: LogColumn;
  timeS: Float64Array;
  values: Float64Array;
}

/** Samples of a column without its blanks, between two times where they are given; null where nothing is left. */
export function traceOf(table: LogTable, column: LogColumn, fromS = -Infinity, toS = Infinity): Trace | null {
  if (!table.timeS) return null;
  const timeS = new Float64Array(column.values.length);
  const values = new Float64Array(column.values.length);
  let count = 0;
  for (let i = 0; i < column.values.length; i += 1) {
    const time = table.timeS[i]!;
    if (!(time >= fromS) || !(time <= toS) || !Number.isFinite(column.values[i]!)) continue;
    timeS[count] = time;
    values[count] = column.values[i]!;
    count += 1;
  }
  return count === 0 ? null : { column, timeS: timeS.slice(0, count), values: values.slice(0, count) };
}

/** The trace of a quantity, or null. */
export function traceFor(table: LogTable, quantity: Quantity): Trace | null {
  const column = table.columns.find((entry) => entry.quantity === quantity);
  return column ? traceOf(table, column) : null;
}

/** Index of the first entry of an ascending list that is not below a value. */
export function lowerBound(ascending: ArrayLike<number>, value: number): number {
  let low = 0;
  let high = ascending.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ascending[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Linear interpolation between samples; NaN outside them. */
export function interpolate(x: ArrayLike<number>, y: ArrayLike<number>, at: number): number {
  const right = lowerBound(x, at);
  if (right === x.length) return Number.NaN;
  if (x[right] === at) return y[right]!;
  if (right === 0) return Number.NaN;
  const share = (at - x[right - 1]!) / (x[right]! - x[right - 1]!);
  return y[right - 1]! + share * (y[right]! - y[right - 1]!);
}

/** Samples of a trace within a time window, both ends included. */
export function samplesBetween(trace: Trace, fromS: number, toS: number): Float64Array {
  const first = lowerBound(trace.timeS, fromS);
  let last = first;
  while (last < trace.timeS.length && trace.timeS[last]! <= toS) last += 1;
  return trace.values.subarray(first, last);
}

/** Median of numbers; NaN for none. */
export function median(values: ArrayLike<number>): number {
  const sorted = new Float64Array(values).sort();
  const middle = sorted.length >> 1;
  if (sorted.length === 0) return Number.NaN;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
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
