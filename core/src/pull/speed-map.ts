import { movingMean, traceBetween, type Trace } from './traces.js';
import { lowerBound } from '../numeric/interpolate.js';

/** When a log passed each engine speed within a sweep: strictly ascending speed with its time. */
export interface SpeedMap {
  speed: Float64Array;
  timeS: Float64Array;
}

const SMOOTH_S = 0.12;

/** Monotone map from speed to time within a window: smoothed speed, of which only new highs count. */
export function speedMap(whole: Trace, startS: number, endS: number): SpeedMap {
  // Of a log of a whole day only the pull is smoothed.
  const trace = traceBetween(whole, startS - SMOOTH_S, endS + SMOOTH_S);
  const smooth = movingMean(trace.timeS, trace.values, SMOOTH_S);
  const speed: number[] = [];
  const timeS: number[] = [];
  for (let i = lowerBound(trace.timeS, startS); i < trace.timeS.length && trace.timeS[i]! <= endS; i += 1) {
    if (speed.length > 0 && smooth[i]! <= speed.at(-1)!) continue;
    speed.push(smooth[i]!);
    timeS.push(trace.timeS[i]!);
  }
  return { speed: Float64Array.from(speed), timeS: Float64Array.from(timeS) };
}
