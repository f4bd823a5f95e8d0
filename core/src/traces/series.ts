import { madeOnce } from '../made-once.js';
import { lowerBound } from '../numeric/interpolate.js';

/** Samples over an ascending axis: time, s, or engine speed, rpm; blanks are left out. */
export interface Series {
  at: Float64Array;
  values: Float64Array;
}

/** Over a gap this many times the usual distance of samples nothing is drawn through. An assumption. */
const GAP = 10;

/** So many samples further a place is walked to, and beyond looked for. */
const NEAR = 8;

/** A series at other places, by straight lines between its samples; NaN outside of it, and in gaps. */
export function seriesAt({ at, values }: Series, places: ArrayLike<number>): Float64Array {
  const widest = GAP * usualStep(at);
  const found = new Float64Array(places.length).fill(Number.NaN);
  let right = 0;
  for (let i = 0; i < places.length; i += 1) {
    const place = places[i]!;
    // Places mostly ascend as well: the next one is near the last.
    if (right === 0 || !(at[right - 1]! < place) || at[right + NEAR]! < place) right = lowerBound(at, place);
    while (right < at.length && at[right]! < place) right += 1;
    if (right === at.length) continue;
    if (at[right] === place) {
      found[i] = values[right]!;
      continue;
    }
    const width = right === 0 ? Number.NaN : at[right]! - at[right - 1]!;
    if (!(width <= widest)) continue;
    found[i] = values[right - 1]! + ((place - at[right - 1]!) / width) * (values[right]! - values[right - 1]!);
  }
  return found;
}

/** The usual distance of neighbouring samples; many channels have one axis. */
const usualStep = madeOnce((at: Float64Array): number => {
  if (at.length < 2) return 0;
  const steps = new Float64Array(at.length - 1);
  for (let i = 0; i < steps.length; i += 1) steps[i] = at[i + 1]! - at[i]!;
  return steps.sort()[steps.length >> 1]!;
});

/** Only the places at which there is a value. */
export function known({ at, values }: Series): Series {
  const indices = Array.from(values.keys()).filter((i) => Number.isFinite(values[i]!) && Number.isFinite(at[i]!));
  return { at: Float64Array.from(indices, (i) => at[i]!), values: Float64Array.from(indices, (i) => values[i]!) };
}

/** The part of a series between two places, both included. */
export function seriesBetween({ at, values }: Series, from: number, to: number): Series {
  const first = lowerBound(at, from);
  let end = lowerBound(at, to);
  while (end < at.length && at[end]! <= to) end += 1;
  return { at: at.slice(first, end), values: values.slice(first, end) };
}

/**
 * One series less another, where both are known: at the places of the one with more samples.
 * @returns the difference, in the unit of both.
 */
export function seriesDifference(candidate: Series, reference: Series): Series {
  const at = candidate.at.length >= reference.at.length ? candidate.at : reference.at;
  const [a, b] = [seriesAt(candidate, at), seriesAt(reference, at)];
  return known({ at, values: a.map((value, i) => value - b[i]!) });
}

/**
 * A channel over engine speed instead of over time, as long as the speed goes up: of what is passed twice (a wheel that spins, a driver who
 * lifts), the first time counts.
 */
export function overSpeed(channel: Series, engineSpeed: Series): Series {
  const speed = seriesAt(engineSpeed, channel.at);
  const at: number[] = [];
  const values: number[] = [];
  let highest = -Infinity;
  for (let i = 0; i < speed.length; i += 1) {
    if (!(speed[i]! > highest) || !Number.isFinite(channel.values[i]!)) continue;
    highest = speed[i]!;
    at.push(highest);
    values.push(channel.values[i]!);
  }
  return { at: Float64Array.from(at), values: Float64Array.from(values) };
}
