/** One run of the clock. Rows of the sorted table; own clock = the table's time − `shiftS`. */
export interface Recording {
  firstRow: number;
  lastRow: number;
  shiftS: number;
}

/** What was mended in the order of the rows, by code. */
export type OrderNote =
  | { code: 'sorted'; column: string; samples: number }
  | { code: 'restarted'; column: string; recordings: number; row: number };

/** Times in order. */
interface Ordered {
  timeS: Float64Array;
  recordings: Recording[];
  /** Order of the rows where samples had to be sorted; null where they stand as they were. */
  order: Int32Array | null;
  notes: OrderNote[];
}

export const SECONDS_A_DAY = 86_400;
/** A sample that stands no further back than this belongs where its time says, rows. */
const SWAPPED_ROWS = 8;
/** And one that falls back by fewer steps than this was swapped too. */
const NEAR_STEPS = 3;
/** Later recordings are put this far behind the one before, s. */
const BETWEEN_RECORDINGS_S = 3600;

/** Puts time in order: midnight passed, swapped samples, and the runs of a clock that was started again. */
export function inOrder(seconds: Float64Array, isClock: boolean, name: string): Ordered {
  const timeS = seconds.slice();
  const starts: number[] = [];
  const nearS = NEAR_STEPS * medianStep(seconds);
  let dayShift = 0;
  let last = Number.NEGATIVE_INFINITY;
  let swapped = 0;
  let first = -1;
  for (let i = 0; i < timeS.length; i += 1) {
    if (!Number.isFinite(timeS[i]!)) continue;
    if (first < 0) {
      first = i;
      starts.push(i);
    }
    let value = timeS[i]! + dayShift;
    if (isClock && value < last - SECONDS_A_DAY / 2) {
      dayShift += SECONDS_A_DAY;
      value += SECONDS_A_DAY;
    }
    if (value < last) {
      if (last - value < nearS || goesOnAfter(timeS, i, last - dayShift)) swapped += 1;
      else {
        starts.push(i);
        last = Number.NEGATIVE_INFINITY;
        if (!isClock) dayShift = 0;
        value = timeS[i]! + dayShift;
      }
    }
    timeS[i] = value;
    last = Math.max(last, value);
  }
  const recordings = recordingsOf(timeS, starts);
  const notes: OrderNote[] = [];
  if (starts.length > 1) notes.push({ code: 'restarted', column: name, recordings: starts.length, row: starts[1]! });
  if (swapped > 0) notes.push({ code: 'sorted', column: name, samples: swapped });
  return { timeS, recordings, order: swapped > 0 ? sortRows(timeS) : null, notes };
}

/** Whether the clock is soon past a time again: what stands in between was swapped. */
function goesOnAfter(timeS: Float64Array, row: number, lastS: number): boolean {
  for (let i = row + 1; i <= row + SWAPPED_ROWS && i < timeS.length; i += 1) if (timeS[i]! > lastS) return true;
  return false;
}

function recordingsOf(timeS: Float64Array, starts: readonly number[]): Recording[] {
  const recordings: Recording[] = [];
  let endS = Number.NEGATIVE_INFINITY;
  starts.forEach((firstRow, k) => {
    const lastRow = (starts[k + 1] ?? timeS.length) - 1;
    const shiftS = k === 0 ? 0 : endS + BETWEEN_RECORDINGS_S - timeS[firstRow]!;
    for (let i = firstRow; i <= lastRow; i += 1) {
      if (!Number.isFinite(timeS[i]!)) continue;
      timeS[i]! += shiftS;
      endS = Math.max(endS, timeS[i]!);
    }
    recordings.push({ firstRow, lastRow, shiftS });
  });
  return recordings;
}

/** The order of the rows by time, in place; rows without a time stay behind the one before them. */
function sortRows(timeS: Float64Array): Int32Array {
  const key = timeS.slice();
  for (let i = 1; i < key.length; i += 1) if (!Number.isFinite(key[i]!)) key[i] = key[i - 1]!;
  const order = Int32Array.from(key.keys()).sort((a, b) => key[a]! - key[b]! || a - b);
  const before = timeS.slice();
  order.forEach((row, i) => (timeS[i] = before[row]!));
  return order;
}

/** The usual step between values, of those that rise; not a number where none does. */
export function medianStep(values: Float64Array): number {
  const steps: number[] = [];
  for (let i = 1; i < values.length && steps.length < 2000; i += 1) {
    const step = values[i]! - values[i - 1]!;
    if (step > 0) steps.push(step);
  }
  steps.sort((a, b) => a - b);
  return steps[Math.floor(steps.length / 2)] ?? Number.NaN;
}
