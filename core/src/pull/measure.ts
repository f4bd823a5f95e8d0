import type { Bundle, Drive, Pull } from '@gezeit/contract';
import { pullCurve, type PullCurve } from './curve.js';
import { SweepAssignment, type LogTables } from './sweep-assignment.js';
import { driveCourse } from './drive-course.js';
import { gearRuns, type GearRun } from './gear-runs.js';
import { heatCourses, type HeatCourses } from './heat-course.js';

/** What the logs of one pull say, whatever is asked of it and whether or not it counts. */
export interface MeasuredPull {
  id: string;
  curve: PullCurve | null;
  heat: HeatCourses;
  /** Runs at full throttle through its gears; on rollers the pull itself. */
  runs: GearRun[];
  /** Laps or a long run; null for whatever is no drive. */
  drive: Drive | null;
}

/**
 * Measures pulls from their logs. Asked of a few, only the tables of those are needed; the count of sweeps in a file is held against every pull
 * that lists it.
 * @throws GezeitError where a pull's logs cannot belong to it.
 */
export function measurePulls(bundle: Bundle, tables: LogTables, wanted: readonly Pull[] = bundle.pulls): MeasuredPull[] {
  const sweeps = new SweepAssignment(bundle.pulls, tables);
  return wanted.map((pull) => {
    // A drive holds many sweeps, and none of them is a pull.
    const curve = pull.kind === 'drive' ? null : pullCurve(bundle, pull, tables, sweeps);
    const nextAt = nextOf(bundle, pull);
    return {
      id: pull.id,
      curve,
      heat: heatCourses(pull, curve, tables, nextAt),
      runs: runsOf(bundle, pull, curve, tables, nextAt),
      drive: driveCourse(bundle, pull, tables),
    };
  });
}

/** What a pull is measured from: two of the same inputs measure the same. The files are named, not held. */
export function measuredFrom(bundle: Bundle, own: Pull): unknown {
  const { id, startedAt, logs, start, ambient } = own;
  const listing = (file: string) =>
    bundle.pulls.flatMap((pull) => (pull.logs.some((log) => log.file === file) ? [[pull.id, pull.startedAt]] : []));
  const { aspiration, boostControl, gearRatios, finalDrive, tyreRadiusM } = bundle.vehicle;
  return [
    [aspiration, boostControl ?? null, gearRatios ?? null, finalDrive ?? null, tyreRadiusM ?? null],
    id,
    startedAt,
    nextOf(bundle, own),
    start ?? null,
    ambient ?? null,
    logs.map((log) => [log, listing(log.file)]),
    ...(own.kind === 'drive' ? ['drive', bundle.programme.laps?.line ?? null, bundle.programme.laps?.atS?.[id] ?? null] : []),
  ];
}

/** A run through the gears is over by so long after its full throttle, s. */
const RUN_S = 120;
/** Before full throttle was found the pedal may have been down already, s. */
const BEFORE_S = 2;

function runsOf(bundle: Bundle, pull: Pull, curve: PullCurve | null, tables: LogTables, nextAt: string | null): GearRun[] {
  const first = curve?.alignments.find(({ how }) => how === 'first');
  if (!curve || !first) return [];
  const untilS = nextAt === null ? RUN_S : Math.min(RUN_S, (Date.parse(nextAt) - Date.parse(pull.startedAt)) / 1000 - BEFORE_S);
  return gearRuns(tables.get(first.file)!, bundle.vehicle, curve.startS - BEFORE_S, curve.startS + untilS);
}

/** When the next pull of a bundle begins; null after the last. */
function nextOf({ pulls }: Bundle, { startedAt }: Pull): string | null {
  const later = pulls.map((pull) => pull.startedAt).filter((at) => Date.parse(at) > Date.parse(startedAt));
  return later.length === 0 ? null : later.reduce((a, b) => (Date.parse(b) < Date.parse(a) ? b : a));
}
