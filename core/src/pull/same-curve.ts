import { median } from '../numeric/means.js';
import type { PullCurve } from './curve.js';
import { GRID_STEP_RPM } from './resample.js';

/**
 * Two pulls, even one after the other on one dyno, are further apart than this by their scatter from sample to sample alone (0.1 % of power in the
 * middle, 10 ms of the course, on simulated days); one measurement that was exported again, in another unit or with fewer digits, is not
 * (0.02 %, 0 ms). Assumptions: shares of power in the middle and of nearly all places, seconds of the course, places at least.
 */
export const SAME_CURVE = { middleShare: 0.0004, nearlyAllShare: 0.003, nearlyAll: 0.95, courseS: 0.006, leastPlaces: 30 };

/** Whether two curves are of one measurement: the same power at every engine speed, passed at the same times. */
export function isSameCurve(a: PullCurve, b: PullCurve): boolean {
  const [powerA, powerB] = [a, b].map(({ channels }) => channels.get('power'));
  if (!powerA || !powerB || a.gridRpm.length === 0 || b.gridRpm.length === 0) return false;
  const shift = Math.round((a.gridRpm[0]! - b.gridRpm[0]!) / GRID_STEP_RPM);
  const shares: number[] = [];
  let offsetS = Number.NaN;
  for (let i = Math.max(0, -shift); i < a.gridRpm.length && i + shift < b.gridRpm.length; i += 1) {
    const [own, other] = [powerA[i]!, powerB[i + shift]!];
    if (!Number.isFinite(own) || !Number.isFinite(other)) continue;
    // A curve without time has none to differ in.
    const apartS = a.gridTimeS[i]! - b.gridTimeS[i + shift]!;
    if (Number.isNaN(offsetS)) offsetS = apartS;
    if (Math.abs(apartS - offsetS) > SAME_CURVE.courseS) return false;
    shares.push(Math.abs(own - other) / Math.max(Math.abs(own), Math.abs(other), 1));
  }
  if (shares.length < SAME_CURVE.leastPlaces) return false;
  const near = shares.filter((share) => share <= SAME_CURVE.nearlyAllShare).length;
  return near >= SAME_CURVE.nearlyAll * shares.length && median(shares) <= SAME_CURVE.middleShare;
}
