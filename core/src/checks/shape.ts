import type { PullCurve } from '../pull/curve.js';
import { median } from '../numeric/means.js';
import { medianOfOthers, peerValues } from './peer-values.js';

/** A channel of a pull over that of the setup's other pulls, speed by speed: their median. Null where fewer than so many have it. */
export function againstOthers(
  curve: PullCurve,
  key: string,
  sameSetup: readonly PullCurve[],
  leastOthers: number,
): { gridRpm: Float64Array; ratio: Float64Array } | null {
  const own = curve.channels.get(key);
  const others = sameSetup.reduce((count, peer) => count + Number(peer !== curve && peer.channels.has(key)), 0);
  if (!own || others < leastOthers) return null;
  const peers = peerValues(sameSetup, key, ({ channels }) => channels.get(key) ?? null);
  const ratio = curve.gridRpm.map((rpm, i) => own[i]! / medianOfOthers(peers, curve, rpm, own[i]!, leastOthers));
  return { gridRpm: curve.gridRpm, ratio };
}

/** Places along a grid at which a test holds. */
export function placesOnGrid(count: number, test: (at: number) => boolean): number[] {
  const places: number[] = [];
  for (let at = 0; at < count; at += 1) if (test(at)) places.push(at);
  return places;
}

/** A channel at some places of its grid. */
export function atPlaces(places: readonly number[], channel: Float64Array): Float64Array {
  const values = new Float64Array(places.length);
  for (let i = 0; i < places.length; i += 1) values[i] = channel[places[i]!]!;
  return values;
}

/** A straight course taken out of values by least squares, and what is left; NaN where nothing is known. */
export function withoutCourse(x: Float64Array, values: Float64Array): Float64Array {
  let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
  for (let i = 0; i < values.length; i += 1) {
    const value = values[i]!;
    if (!Number.isFinite(value)) continue;
    n += 1;
    sx += x[i]!;
    sy += value;
    sxx += x[i]! * x[i]!;
    sxy += x[i]! * value;
  }
  const slope = (n * sxy - sx * sy) / (n * sxx - sx ** 2);
  const intercept = (sy - slope * sx) / n;
  return values.map((value, i) => value - intercept - slope * x[i]!);
}

/** Robust scatter about zero. */
export const robustScatter = (values: Float64Array): number => 1.4826 * median(values.filter(Number.isFinite).map(Math.abs));
