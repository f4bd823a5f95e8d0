import { lowerBound } from '../numeric/interpolate.js';

/** Samples over an ascending axis: time, s, or engine speed, rpm; blanks are left out. */
export interface Series {
  at: Float64Array;
  values: Float64Array;
}

/** Over a gap this many times the usual distance of samples nothing is drawn through. An assumption. */
const GAP = 10;

/** A series at other places, by straight lines between its samples; NaN outside of it, and in gaps. */
export function seriesAt({ at, values }: Series, places: ArrayLike<number>): Float64Array {
  const widest = GAP * usualStep(at);
  return Float64Array.from({ length: places.length }, (_, i) => {
    const place = places[i]!;
    const right = lowerBound(at, place);
    if (right === at.length) return Number.NaN;
    if (at[right] === place) return values[right]!;
    const width = right === 0 ? Number.NaN : at[right]! - at[right - 1]!;
    if (!(width <= widest)) return Number.NaN;
    return values[right - 1]! + ((place - at[right - 1]!) / width) * (values[right]! - values[right - 1]!);
  });
}

/** The usual distance of neighbouring samples. */
function usualStep(at: Float64Array): number {
  if (at.length < 2) return 0;
  const steps = Float64Array.from({ length: at.length - 1 }, (_, i) => at[i + 1]! - at[i]!).sort();
  return steps[steps.length >> 1]!;
}

/** Only the places at which there is a value. */
export function known({ at, values }: Series): Series {
  const indices = Array.from(values.keys()).filter((i) => Number.isFinite(values[i]!) && Number.isFinite(at[i]!));
  return { at: Float64Array.from(indices, (i) => at[i]!), values: Float64Array.from(indices, (i) => values[i]!) };
}

/** The part of a series between two places, both included. */
export function seriesBetween({ at, values }: Series, from: number, to: number): Series {
  const indices = Array.from(at.keys()).filter((i) => at[i]! >= from && at[i]! <= to);
  return { at: Float64Array.from(indices, (i) => at[i]!), values: Float64Array.from(indices, (i) => values[i]!) };
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
