import type { Pull } from '@gezeit/contract';
import type { PullCurve } from './curve.js';
import type { LogTables } from './sweep-assignment.js';
import { traceFor } from './traces.js';
import { lowerBound } from '../numeric/interpolate.js';

/** A temperature around a pull above its ambient, K, by the day's clock, ms. */
interface HeatCourse {
  atMs: number[];
  aboveAmbientK: number[];
}

/** What the heat of a day can be read from. */
export type HeatQuantity = 'intakeAirTemperature' | 'coolantTemperature';
export type HeatCourses = Record<HeatQuantity, HeatCourse | null>;

/** Points a course is kept with. */
const COURSE_POINTS = 60;
/** Part of the record around a pull, s: one file may hold several pulls. */
const AROUND_S = 30;

/** The courses of a pull; null where the quantity is not logged, or without ambient. */
export function heatCourses(pull: Pull, curve: PullCurve | null, tables: LogTables): HeatCourses {
  return {
    intakeAirTemperature: course(pull, curve, tables, 'intakeAirTemperature'),
    coolantTemperature: course(pull, curve, tables, 'coolantTemperature'),
  };
}

function course(pull: Pull, curve: PullCurve | null, tables: LogTables, quantity: HeatQuantity): HeatCourse | null {
  if (!curve?.air || !curve.alignments.some(({ how }) => how === 'first')) return null;
  for (const alignment of curve.alignments) {
    const trace = traceFor(tables.get(alignment.file)!, quantity);
    if (!trace) continue;
    const from = lowerBound(trace.timeS, curve.startS + alignment.offsetS - AROUND_S);
    const to = Math.min(trace.timeS.length, lowerBound(trace.timeS, curve.endS + alignment.offsetS + AROUND_S));
    const step = Math.max(1, Math.floor((to - from) / COURSE_POINTS));
    const found: HeatCourse = { atMs: [], aboveAmbientK: [] };
    for (let i = from; i < to; i += step) {
      found.atMs.push(Date.parse(pull.startedAt) + 1000 * (trace.timeS[i]! - alignment.offsetS - curve.startS));
      found.aboveAmbientK.push(trace.values[i]! - curve.air.temperatureC);
    }
    if (found.atMs.length > 1) return found;
  }
  return null;
}
