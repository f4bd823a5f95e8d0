import type { Bundle, Drive, LapCut, Pull, Quantity } from '@gezeit/contract';
import type { LogTable } from '../log/log-table.js';
import { interpolate, lowerBound } from '../numeric/interpolate.js';
import { mean, median } from '../numeric/means.js';
import { relationOf } from '../traces/relation.js';
import { stretchOf } from '../traces/stretch.js';
import { cutByChannel, cutByLine } from './lap-cut.js';
import { moved, planeAt } from '../road/plane.js';
import type { LogTables } from './sweep-assignment.js';
import { samplesBetween, traceOf, type Trace } from './traces.js';

/** What counts as full throttle, and which laps are compared: none slower than this times the drive's usual lap. Assumptions. */
export const DRIVE_RULES = { openPct: 90, openShare: 0.95, slowLap: 1.07, leastLapS: 20 };

/** What is followed over distance on a long run. */
const FOLLOWED: readonly Quantity[] = [
  'longTermTrim',
  'shortTermTrim',
  'intakeAirTemperature',
  'coolantTemperature',
  'oilTemperature',
  'lambda',
  'knockRetard',
];
const DISTANCE_FROM = ['distance', 'vehicleSpeed', 'latitude'] as const;

/** What a drive (laps on a track, a long run) shows: null for any other pull, and where no log of it has a time. */
export function driveCourse(bundle: Bundle, pull: Pull, tables: LogTables): Drive | null {
  if (pull.kind !== 'drive') return null;
  const found = pull.logs.flatMap((log) => {
    const table = tables.get(log.file);
    return table?.timeS ? [{ table, log }] : [];
  });
  // One logger is read: the one that knows most of what a drive is judged by.
  const knows = ({ table }: (typeof found)[number]) => table.columns.filter(({ quantity }) => quantity !== null).length;
  const best = found.reduce<(typeof found)[number] | null>((a, b) => (a && knows(a) >= knows(b) ? a : b), null);
  if (!best) return null;
  const { table, log } = best;
  const recording = log.recording == null ? null : (table.report.recordings?.[log.recording] ?? null);
  const shiftS = recording?.shiftS ?? 0;
  const [first, last] = recording ? [table.timeS![recording.firstRow]!, table.timeS![recording.lastRow]!] : [-Infinity, Infinity];
  const [from, to] = [log.startS == null ? first : log.startS + shiftS, log.endS == null ? last : log.endS + shiftS];
  const near = (quantity: Quantity) => traceFrom(table, quantity, from, to);
  const times = [...table.timeS!].filter((at) => at >= from && at <= to);
  if (times.length < 2) return null;
  const [startS, endS] = [times[0]!, times.at(-1)!];
  const distance = distanceOf(near);
  const { cuts, by } = cutsOf(bundle, pull, near, startS);
  const laps = lapsBetween(cuts, near, distance?.trace ?? null);
  return {
    file: table.file,
    startS,
    seconds: endS - startS,
    distanceM: distance ? distance.trace.values.at(-1)! - distance.trace.values[0]! : null,
    distanceFrom: distance?.from ?? null,
    cutBy: by,
    laps,
    courses: distance ? coursesOf(near, distance.trace) : [],
  };
}

type Near = (quantity: Quantity) => Trace | null;

function traceFrom(table: LogTable, quantity: Quantity, from: number, to: number): Trace | null {
  const column = table.columns.find((entry) => entry.quantity === quantity);
  return column ? traceOf(table, column, from, to) : null;
}

function cutsOf({ programme }: Bundle, pull: Pull, near: Near, startS: number): { cuts: number[]; by: LapCut | null } {
  const byHand = programme.laps?.atS?.[pull.id];
  // By hand the times are those since the drive's first sample.
  if (byHand?.length) return { cuts: byHand.map((at) => startS + at).sort((a, b) => a - b), by: 'hand' };
  const [latitude, longitude] = [near('latitude'), near('longitude')];
  const line = programme.laps?.line;
  if (line && latitude && longitude) return { cuts: cutByLine(latitude, matched(longitude, latitude), line), by: 'line' };
  const counted = near('lap');
  if (counted) return { cuts: cutByChannel(counted), by: 'channel' };
  return { cuts: [], by: null };
}

const matched = (trace: Trace, other: Trace): Trace => ({
  ...other,
  values: Float64Array.from(other.timeS, (at) => interpolate(trace.timeS, trace.values, at)),
});

/** Distance since the drive began, m: by its channel (which may begin anew every lap), else by speed, else from place to place. */
function distanceOf(near: Near): { trace: Trace; from: (typeof DISTANCE_FROM)[number] } | null {
  for (const from of DISTANCE_FROM) {
    const trace = near(from);
    if (!trace || trace.timeS.length < 2) continue;
    const step = stepM(from, trace, near);
    if (!step) continue;
    let sum = 0;
    const values = trace.values.map((_, i) => (sum += i === 0 ? 0 : Math.max(0, step(i))));
    if (sum > 0) return { trace: { ...trace, values }, from };
  }
  return null;
}

function stepM(from: (typeof DISTANCE_FROM)[number], { timeS, values }: Trace, near: Near): ((i: number) => number) | null {
  if (from === 'distance') return (i) => values[i]! - values[i - 1]!;
  if (from === 'vehicleSpeed') return (i) => ((values[i]! + values[i - 1]!) / 2) * (timeS[i]! - timeS[i - 1]!);
  const longitude = near('longitude');
  if (!longitude) return null;
  const plane = planeAt({ latitude: values[0]!, longitude: longitude.values[0]! });
  const at = (i: number) => plane({ latitude: values[i]!, longitude: interpolate(longitude.timeS, longitude.values, timeS[i]!) });
  return (i) => {
    const way = moved(at(i - 1), at(i));
    return Math.hypot(way.x, way.y);
  };
}

function lapsBetween(cuts: readonly number[], near: Near, distance: Trace | null): Drive['laps'] {
  const open = near('pedal') ?? near('throttle');
  const fully = open ? Math.min(DRIVE_RULES.openPct, DRIVE_RULES.openShare * open.values.reduce((a, b) => Math.max(a, b), 0)) : 0;
  const [air, ambient] = [near('intakeAirTemperature'), near('ambientTemperature')];
  const peaks = { coolant: near('coolantTemperature'), oil: near('oilTemperature'), knock: near('knockRetard') };
  const whole = cuts.slice(1).flatMap((endS, i) => (endS - cuts[i]! >= DRIVE_RULES.leastLapS ? [{ startS: cuts[i]!, endS }] : []));
  const usualS = median(whole.map(({ startS, endS }) => endS - startS));
  return whole.map(({ startS, endS }, i) => {
    const inside = (trace: Trace | null) => (trace ? samplesBetween(trace, startS, endS) : new Float64Array());
    const over = <T>(trace: Trace | null, of: (samples: Float64Array) => T) => {
      const samples = inside(trace);
      return samples.length === 0 ? null : of(samples);
    };
    const most = (samples: Float64Array) => samples.reduce((a, b) => Math.max(a, b));
    const meanOf = (samples: Float64Array) => mean([...samples]);
    const airMean = over(air, meanOf);
    const ambientMean = over(ambient, meanOf);
    return {
      number: i + 1,
      startS,
      endS,
      seconds: endS - startS,
      distanceM: distance
        ? interpolate(distance.timeS, distance.values, endS) - interpolate(distance.timeS, distance.values, startS)
        : null,
      fullThrottleShare: open ? openShare(open, fully, startS, endS) : null,
      intakeAirStartC: air ? interpolate(air.timeS, air.values, startS) : null,
      intakeAirMeanC: airMean,
      intakeAirPeakC: over(air, most),
      aboveAmbientK: airMean === null || ambientMean === null ? null : airMean - ambientMean,
      coolantPeakC: over(peaks.coolant, most),
      oilPeakC: over(peaks.oil, most),
      knockPeakDeg: over(peaks.knock, most),
      counts: endS - startS <= DRIVE_RULES.slowLap * usualS,
    };
  });
}

/** Share of the time at full throttle: a sample stands until the next one. */
function openShare({ timeS, values }: Trace, fully: number, startS: number, endS: number): number {
  let open = 0;
  for (let i = Math.max(0, lowerBound(timeS, startS) - 1); i < timeS.length && timeS[i]! < endS; i += 1) {
    const until = Math.min(endS, timeS[i + 1] ?? endS);
    if (values[i]! >= fully) open += Math.max(0, until - Math.max(startS, timeS[i]!));
  }
  return open / (endS - startS);
}

const KM_100 = 100_000;

/** Means over the drive and how they drift over distance, each with its interval, of whatever is logged. */
function coursesOf(near: Near, distance: Trace): Drive['courses'] {
  const way = { at: distance.timeS, values: distance.values };
  const ambient = near('ambientTemperature');
  return FOLLOWED.flatMap((quantity): Drive['courses'] => {
    const trace = near(quantity);
    if (!trace) return [];
    const above = quantity === 'intakeAirTemperature' && ambient !== null;
    const values = above
      ? trace.values.map((value, i) => value - interpolate(ambient.timeS, ambient.values, trace.timeS[i]!))
      : trace.values;
    const series = { at: trace.timeS, values };
    const stretch = stretchOf(series, trace.timeS[0]!, trace.timeS.at(-1)!);
    const { line } = relationOf(series, way);
    return [
      {
        quantity,
        aboveAmbient: above,
        mean: stretch?.mean ?? { value: mean([...values]), low: null, high: null },
        perHundredKm: line && { value: KM_100 * line.slope, low: KM_100 * line.low, high: KM_100 * line.high },
      },
    ];
  });
}
