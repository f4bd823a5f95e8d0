/** What the values of a column show, as written. */
export interface ColumnFacts {
  count: number;
  low: number;
  high: number;
  /** 2nd, 50th and 98th percentile. */
  bottom: number;
  middle: number;
  top: number;
  /** Whether every value is a whole number. */
  whole: boolean;
  /** Share of steps that do not fall; 1 for a clock. */
  rising: number;
  /** Where the engine's speed rises through a sweep: the value at its begin and at its end; null where none is known. */
  sweep: readonly [number, number] | null;
  /** Share of samples within 3 % of the span from the top. */
  atTop: number;
}

const MOST_SAMPLES = 4000;

/** Facts of a column's values; `sweepRows` are the first and last row of a rise of the engine's speed. */
export function factsOf(values: Float64Array, sweepRows: readonly [number, number] | null): ColumnFacts {
  const step = Math.max(1, Math.floor(values.length / MOST_SAMPLES));
  const sample: number[] = [];
  let [low, high, count] = [Infinity, -Infinity, 0];
  let whole = true;
  for (let i = 0; i < values.length; i += 1) {
    const value = values[i]!;
    if (!Number.isFinite(value)) continue;
    count += 1;
    if (value < low) low = value;
    if (value > high) high = value;
    if (i % step === 0) {
      sample.push(value);
      if (!Number.isInteger(value)) whole = false;
    }
  }
  let rises = 0;
  for (let i = 1; i < sample.length; i += 1) if (sample[i]! >= sample[i - 1]!) rises += 1;
  const sorted = Float64Array.from(sample).sort();
  const at = (share: number) => (sorted.length === 0 ? Number.NaN : sorted[Math.round(share * (sorted.length - 1))]!);
  const [bottom, middle, top] = [at(0.02), at(0.5), at(0.98)];
  const nearTop = top - 0.03 * (top - bottom);
  return {
    count,
    low: count > 0 ? low : Number.NaN,
    high: count > 0 ? high : Number.NaN,
    bottom,
    middle,
    top,
    whole,
    rising: sample.length > 1 ? rises / (sample.length - 1) : 0,
    sweep: sweepRows && count > 0 ? [nearRow(values, sweepRows[0]), nearRow(values, sweepRows[1])] : null,
    atTop: sorted.length === 0 ? 0 : sample.filter((value) => value >= nearTop).length / sample.length,
  };
}

function nearRow(values: Float64Array, row: number): number {
  for (let away = 0; away < 200; away += 1) {
    const after = values[row + away];
    if (after !== undefined && Number.isFinite(after)) return after;
    const before = values[row - away];
    if (before !== undefined && Number.isFinite(before)) return before;
  }
  return Number.NaN;
}

/** A fall by this share of what was risen so far ends the way back from the top. */
const DIP_SHARE = 0.12;

/** First and last row of the rise to the highest value of a speed; null where it hardly rises. */
export function riseRows(speed: Float64Array): readonly [number, number] | null {
  let top = -1;
  for (let i = 0; i < speed.length; i += 1) if (Number.isFinite(speed[i]!) && (top < 0 || speed[i]! > speed[top]!)) top = i;
  if (top < 0) return null;
  let bottom = top;
  for (let i = top - 1; i >= 0; i -= 1) {
    const value = speed[i]!;
    if (!Number.isFinite(value)) continue;
    if (value <= speed[bottom]!) bottom = i;
    else if (value > speed[bottom]! + DIP_SHARE * (speed[top]! - speed[bottom]!) + 1e-9 && speed[top]! > speed[bottom]!) break;
  }
  return speed[top]! - speed[bottom]! > 0.25 * speed[top]! ? [bottom, top] : null;
}
