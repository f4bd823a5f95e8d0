import type { TraceHeader } from '@gezeit/contract';
import { samplesToBuffer } from '../store/samples.js';

/** One series of a trace answer. */
export interface TraceSeries {
  column: string;
  timeS: Float64Array;
  values: Float64Array;
}

/** The part of a series between two times, and a sample on either side so that a line leaves the picture where it does. */
export function between(series: TraceSeries, fromS = -Infinity, toS = Infinity): TraceSeries {
  if (fromS === -Infinity && toS === Infinity) return series;
  const { column, timeS, values } = series;
  let first = 0;
  while (first < timeS.length && !(timeS[first]! >= fromS)) first += 1;
  let last = timeS.length - 1;
  while (last >= 0 && !(timeS[last]! <= toS)) last -= 1;
  if (first === timeS.length || last < 0) return { column, timeS: new Float64Array(), values: new Float64Array() };
  const [a, b] = [Math.max(0, first - 1), last + 2];
  return { column, timeS: timeS.subarray(a, b), values: values.subarray(a, b) };
}

/**
 * Leaves of each of `buckets` equal stretches of samples the lowest and the highest, in their order in time, so that no peak is lost.
 * Blanks are dropped. What is short enough comes back whole.
 */
export function reduceSeries({ column, timeS, values }: TraceSeries, buckets: number): TraceSeries & { reduced: boolean } {
  const known = knownIndices(timeS, values);
  if (known.length <= 2 * buckets) return { ...pick(column, timeS, values, known), reduced: false };
  const kept: number[] = [];
  for (let bucket = 0; bucket < buckets; bucket += 1) {
    const from = Math.floor((bucket * known.length) / buckets);
    const to = Math.floor(((bucket + 1) * known.length) / buckets);
    let [low, high] = [known[from]!, known[from]!];
    for (let k = from; k < to; k += 1) {
      if (values[known[k]!]! < values[low]!) low = known[k]!;
      if (values[known[k]!]! > values[high]!) high = known[k]!;
    }
    kept.push(Math.min(low, high));
    if (low !== high) kept.push(Math.max(low, high));
  }
  return { ...pick(column, timeS, values, kept), reduced: true };
}

/** Where neither time nor value is blank. */
function knownIndices(timeS: Float64Array, values: Float64Array): Uint32Array {
  const known = new Uint32Array(values.length);
  let count = 0;
  for (let i = 0; i < values.length; i += 1) {
    if (Number.isFinite(values[i]!) && Number.isFinite(timeS[i]!)) known[count++] = i;
  }
  return known.subarray(0, count);
}

function pick(column: string, timeS: Float64Array, values: Float64Array, indices: ArrayLike<number>): TraceSeries {
  return { column, timeS: Float64Array.from(indices, (i) => timeS[i]!), values: Float64Array.from(indices, (i) => values[i]!) };
}

/** The binary answer: header length, header as JSON, then time and values of each series as little-endian Float64. */
export function encodeTraces(log: string, series: (TraceSeries & { reduced: boolean })[]): Buffer {
  const header: TraceHeader = {
    log,
    reduced: series.some(({ reduced }) => reduced),
    series: series.map(({ column, timeS }) => ({ column, length: timeS.length })),
  };
  const text = Buffer.from(JSON.stringify(header));
  const length = Buffer.alloc(4);
  length.writeUInt32LE(text.length);
  return Buffer.concat([length, text, ...series.flatMap(({ timeS, values }) => [samplesToBuffer(timeS), samplesToBuffer(values)])]);
}
