import { GRID_STEP_RPM } from './resample.js';
import type { PullCurve } from './curve.js';
import { interpolate } from '../numeric/interpolate.js';

export type Band = readonly [lowRpm: number, highRpm: number];

/** A band is asked of every pull and channel: its grid is made once. */
const grids = new WeakMap<Band, Float64Array>();

/** Engine speeds 25 rpm apart from the band's low end to its high end, both included. */
function bandGrid(band: Band): Float64Array {
  const known = grids.get(band);
  if (known) return known;
  const [low, high] = band;
  const speeds: number[] = [];
  for (let rpm = low; rpm < high - 1e-9; rpm += GRID_STEP_RPM) speeds.push(rpm);
  const grid = Float64Array.of(...speeds, high);
  grids.set(band, grid);
  return grid;
}

/** A pull may miss the band's ends by this and still covers it, rpm. */
export const COVER_TOLERANCE_RPM = GRID_STEP_RPM;

/** Bands of which a channel's values are kept: those of the questions and of what is tried just now. */
const MOST_BANDS = 8;

/** Every check of every pull asks for the same channels of its peers, and a changed programme for most of them again. */
const banded = new WeakMap<Float64Array, Map<string, Float64Array>>();

/**
 * The channel on the band's grid; ends within the tolerance take the nearest value. NaN elsewhere outside. Kept for as long as the channel is: not
 * to be written into.
 */
export function onBand(curve: PullCurve, channel: Float64Array, band: Band): Float64Array {
  const known = banded.get(channel) ?? new Map<string, Float64Array>();
  banded.set(channel, known);
  const key = band.join(' ');
  const kept = known.get(key);
  if (kept) return kept;
  if (known.size === MOST_BANDS) known.clear();
  const values = interpolatedOn(curve, channel, band);
  known.set(key, values);
  return values;
}

function interpolatedOn({ gridRpm }: PullCurve, channel: Float64Array, band: Band): Float64Array {
  const first = gridRpm[0]!;
  const last = gridRpm[gridRpm.length - 1]!;
  const grid = bandGrid(band);
  const values = new Float64Array(grid.length);
  for (let i = 0; i < grid.length; i += 1) {
    const rpm = grid[i]!;
    const near = rpm < first && rpm >= first - COVER_TOLERANCE_RPM ? first : rpm > last && rpm <= last + COVER_TOLERANCE_RPM ? last : rpm;
    values[i] = interpolate(gridRpm, channel, near);
  }
  return values;
}

/** Mean over the band, uniform over engine speed, by the trapezoid rule; null where the channel does not cover it. */
export function bandMean(
  curve: PullCurve,
  key: string,
  band: Band,
  transform: (value: number) => number = (value) => value,
): number | null {
  const channel = curve.channels.get(key);
  if (!channel) return null;
  const grid = bandGrid(band);
  const values = onBand(curve, channel, band);
  let area = 0;
  let before = transform(values[0]!);
  for (let i = 1; i < grid.length; i += 1) {
    const here = transform(values[i]!);
    area += ((here + before) / 2) * (grid[i]! - grid[i - 1]!);
    before = here;
  }
  const mean = area / (band[1] - band[0]);
  return Number.isFinite(mean) ? mean : null;
}

/** Window over which a curve is smoothed, rpm. */
const SMOOTHED_RPM = 200;

/** Weights of a local quadratic over points 25 rpm apart (Savitzky and Golay 1964): nine points are a window of 200 rpm. */
function quadraticWeights(windowRpm: number): number[] {
  const half = Math.round(windowRpm / (2 * GRID_STEP_RPM));
  const whole = (2 * half + 3) * (2 * half + 1) * (2 * half - 1);
  return Array.from({ length: 2 * half + 1 }, (_, j) => (3 * (3 * half * half + 3 * half - 1) - 15 * (j - half) ** 2) / whole);
}

/** The curve smoothed by a local quadratic; the points at either end, half a window, stay as they are. */
export function smoothed(values: Float64Array, windowRpm = SMOOTHED_RPM): Float64Array {
  const smooth = values.slice();
  const weights = quadraticWeights(windowRpm);
  const half = (weights.length - 1) / 2;
  for (let i = half; i < values.length - half; i += 1) {
    let sum = 0;
    for (let j = 0; j < weights.length; j += 1) sum += weights[j]! * values[i + j - half]!;
    smooth[i] = sum;
  }
  return smooth;
}

/** Largest value of the smoothed curve inside the band and its engine speed; null where nothing is covered. */
export function bandPeak(curve: PullCurve, key: string, band: Band, windowRpm = SMOOTHED_RPM): { value: number; rpm: number } | null {
  const channel = curve.channels.get(key);
  if (!channel) return null;
  const smooth = smoothed(channel, windowRpm);
  let best: { value: number; rpm: number } | null = null;
  curve.gridRpm.forEach((rpm, i) => {
    if (rpm < band[0] || rpm > band[1] || !Number.isFinite(smooth[i]!)) return;
    if (!best || smooth[i]! > best.value) best = { value: smooth[i]!, rpm };
  });
  return best;
}
