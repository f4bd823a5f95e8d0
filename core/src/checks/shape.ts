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
  // Every curve stands on multiples of one step.
  const peers = peerValues(sameSetup, key, ({ gridRpm, channels }) => {
    const values = channels.get(key);
    return values ? [...gridRpm].flatMap((rpm, i) => (Number.isFinite(values[i]!) ? [[rpm, values[i]!] as const] : [])) : [];
  });
  const ratio = curve.gridRpm.map((rpm, i) => own[i]! / medianOfOthers(peers, curve, rpm, own[i]!, leastOthers));
  return { gridRpm: curve.gridRpm, ratio };
}

/** A straight course taken out of values by least squares, and what is left; NaN where nothing is known. */
export function withoutCourse(x: Float64Array, values: Float64Array): Float64Array {
  let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
  values.forEach((value, i) => {
    if (!Number.isFinite(value)) return;
    n += 1;
    sx += x[i]!;
    sy += value;
    sxx += x[i]! ** 2;
    sxy += x[i]! * value;
  });
  const slope = (n * sxy - sx * sy) / (n * sxx - sx ** 2);
  const intercept = (sy - slope * sx) / n;
  return values.map((value, i) => value - intercept - slope * x[i]!);
}

/** Robust scatter about zero. */
export const robustScatter = (values: Iterable<number>): number =>
  1.4826 * median([...values].filter(Number.isFinite).map((value) => Math.abs(value)));
