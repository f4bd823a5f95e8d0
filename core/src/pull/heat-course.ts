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

/** Points a course is kept with: about the pull itself, and until the next one. */
const COURSE_POINTS = 60;
/** Part of the record around a pull that is drawn closely, s. */
const AROUND_S = 30;
/** After the last pull of a record so much of it belongs to that pull, s; a course ends so long before the next one. */
const LAST_S = 900;
const BEFORE_NEXT_S = AROUND_S + 1;

/** The courses of a pull, as long as its logs have them, until the next pull begins; null where the quantity is not logged, or without ambient. */
export function heatCourses(pull: Pull, curve: PullCurve | null, tables: LogTables, nextAt: string | null): HeatCourses {
  return {
    intakeAirTemperature: course(pull, curve, tables, 'intakeAirTemperature', nextAt),
    coolantTemperature: course(pull, curve, tables, 'coolantTemperature', nextAt),
  };
}

function course(pull: Pull, curve: PullCurve | null, tables: LogTables, quantity: HeatQuantity, nextAt: string | null): HeatCourse | null {
  if (!curve?.air || !curve.alignments.some(({ how }) => how === 'first')) return null;
  for (const alignment of curve.alignments) {
    const trace = traceFor(tables.get(alignment.file)!, quantity);
    if (!trace) continue;
    const [startS, endS] = [curve.startS + alignment.offsetS, curve.endS + alignment.offsetS];
    const untilS = nextAt === null ? endS + LAST_S : startS + (Date.parse(nextAt) - Date.parse(pull.startedAt)) / 1000 - BEFORE_NEXT_S;
    const close = lowerBound(trace.timeS, Math.min(endS + AROUND_S, Math.max(endS, untilS)));
    const far = Math.max(close, lowerBound(trace.timeS, untilS));
    const found: HeatCourse = { atMs: [], aboveAmbientK: [] };
    const take = (from: number, to: number) => {
      const step = Math.max(1, Math.floor((to - from) / COURSE_POINTS));
      for (let i = from; i < to; i += step) {
        found.atMs.push(Date.parse(pull.startedAt) + 1000 * (trace.timeS[i]! - startS));
        found.aboveAmbientK.push(trace.values[i]! - curve.air!.temperatureC);
      }
    };
    take(lowerBound(trace.timeS, startS - AROUND_S), close);
    take(close, far);
    if (found.atMs.length > 1) return found;
  }
  return null;
}
