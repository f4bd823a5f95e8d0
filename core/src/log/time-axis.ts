import { UNITS, type UnitName } from '../units/units.js';
import { inOrder, medianStep, SECONDS_A_DAY, type OrderNote, type Recording } from './row-order.js';
import type { TimeFormat } from './time-cells.js';

/** What a file's own clock is: running from anywhere, of the day, or dated. */
export type TimeKind = 'elapsed' | 'clock' | 'dateTime' | 'epoch' | 'serial';

/** A time column as written, with its unit where the header names one; clocks and dates are in seconds already. */
export interface TimeCandidate {
  index: number;
  name: string;
  values: Float64Array;
  unit: UnitName | null;
  format: TimeFormat | null;
}

export interface TimeAxis {
  /** Seconds on the file's own clock, ascending; later recordings are shifted behind the earlier ones. */
  timeS: Float64Array;
  kind: TimeKind;
  /** Indexes of the columns that it is from. */
  columns: number[];
  unit: UnitName;
  recordings: Recording[];
  /** Order of the rows where samples had to be sorted; null where they stand as they were. */
  order: Int32Array | null;
  /** When own clock 0 is, ms since 1970 as the clock on the wall says it; null where no date is written. */
  startsAtMs: number | null;
  /** Minutes east of UTC that the file gives; null where it gives none. */
  zoneMin: number | null;
  /** What was assumed or mended, by code. */
  notes: TimeNote[];
  /** The first two time columns that do not go with each other; null where all do. Read is the first. */
  contradiction: TimeContradiction | null;
}

/** Two time columns that cover different times, s. */
interface TimeContradiction {
  columns: [first: number, second: number];
  coverS: [first: number, second: number];
}

export type TimeNote =
  | { code: 'unit-assumed'; column: string; unit: UnitName; by: 'steps' | 'sweep' | 'usual'; step: number }
  /** It may only count its rows: as seconds it makes every rise of the engine too slow, and no other unit puts it right. */
  | { code: 'counts-rows'; column: string }
  | { code: 'kind-judged'; column: string; kind: TimeKind }
  | OrderNote
  | { code: 'spread'; column: string; stamps: number }
  | { code: 'without-time'; rows: number };

/** Two time columns of one file may differ by this share of the recording. */
const SAME_TIME_SHARE = 0.01;
/** A full-throttle sweep of an engine takes this long, s; decides between units. */
const SWEEP_S = { shortest: 0.8, longest: 90 };
const SWEEP_RISE_RPM = 1500;
/** Rows over which no engine rises so far in a sweep, neither at one a second nor at a thousand: a column that rises by one a row counts them. */
const COUNTED_ROWS = { beyond: 20, below: 800 };
const SAMPLE_STEP_S = { shortest: 0.0004, longest: 1.5 };
/** Seconds since 1970 of the years in which a log can have been made. */
const EPOCH_S = { from: 9e8, to: 2.3e9 };
/** Days since 1900 of the same years, as a spreadsheet counts; its day 25569 is 1 January 1970. */
const SERIAL_DAYS = { from: 36_000, to: 52_000, epoch: 25_569 };
/** From this share of repeated stamps on, a clock is coarser than its samples. */
const REPEATED_SHARE = 0.3;

/** Seconds on the logger's own clock from the file's time columns; null where there is none. */
export function timeAxis(candidates: readonly TimeCandidate[], engineSpeedRpm: Float64Array | null): TimeAxis | null {
  const dates = candidates.filter(({ format }) => format?.kind === 'date');
  const timed = candidates.filter((candidate) => !dates.includes(candidate) && hasTime(candidate));
  const date = dates[0] ?? null;
  const first = timed[0];
  if (!first) return null;
  const own = inSeconds(first, engineSpeedRpm);
  const others = timed.slice(1).map((candidate) => inSeconds(candidate, engineSpeedRpm));
  const contradictions = others.map((other, i) => contradictionOf(own, other, first, timed[i + 1]!));
  const dated = own.absolute ? own : (others.find(({ absolute }) => absolute) ?? null);
  const day = date && !own.absolute && own.kind === 'clock' ? dayOf(date) : null;
  const notes = [...own.notes];
  const raw = day === null ? own.seconds : own.seconds.map((value, i) => value + (date!.values[i]! - day));
  const { notes: mended, ...put } = inOrder(raw, own.kind === 'clock', first.name);
  notes.push(...mended);
  let startsAtMs: number | null = day === null ? null : day * 1000;
  if (dated) {
    const row = firstKnown(dated.seconds, own.seconds);
    // Of a dated clock, own time is counted from the first row; of another one the dated column says when its zero was.
    startsAtMs = dated === own ? own.base! * 1000 : (dated.base! + dated.seconds[row]! - own.seconds[row]!) * 1000;
  }
  const zone = [first, ...timed.slice(1)].find(({ format }) => format?.zoneMin != null)?.format?.zoneMin ?? null;
  return {
    ...put,
    kind: day === null ? own.kind : 'dateTime',
    columns: [first.index, ...(date ? [date.index] : [])],
    unit: own.unit,
    startsAtMs,
    zoneMin: zone ?? (dated && dated.kind === 'epoch' ? 0 : null),
    notes,
    contradiction: contradictions.find((entry) => entry !== null) ?? null,
    ...(day === null ? {} : fromFirstRow(put, day)),
  };
}

/** A clock beside a date is a dated clock: counted from its first row. */
function fromFirstRow(put: Pick<TimeAxis, 'timeS'>, dayS: number): Pick<TimeAxis, 'timeS' | 'startsAtMs'> {
  const base = put.timeS.find(Number.isFinite) ?? 0;
  return { timeS: put.timeS.map((value) => value - base), startsAtMs: (dayS + base) * 1000 };
}

const hasTime = ({ values }: TimeCandidate) => values.some(Number.isFinite);
const dayOf = ({ values }: TimeCandidate): number => values.find(Number.isFinite) ?? 0;

function firstKnown(a: Float64Array, b: Float64Array): number {
  for (let i = 0; i < a.length; i += 1) if (Number.isFinite(a[i]!) && Number.isFinite(b[i]!)) return i;
  return 0;
}

function contradictionOf(own: InSeconds, other: InSeconds, first: TimeCandidate, second: TimeCandidate): TimeContradiction | null {
  const coverS: [number, number] = [duration(own.seconds), duration(other.seconds)];
  const isStamp = [first, second].some(({ format }) => format !== null);
  const coarse = isStamp ? 2 * Math.max(medianStep(own.seconds), medianStep(other.seconds)) + 1 : 0;
  const isNear = Math.abs(coverS[0] - coverS[1]) <= Math.max(SAME_TIME_SHARE * Math.max(...coverS), coarse);
  return isNear ? null : { columns: [first.index, second.index], coverS };
}

function duration(timeS: Float64Array): number {
  let [low, high] = [Infinity, -Infinity];
  for (const value of timeS) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return high >= low ? high - low : 0;
}

interface InSeconds {
  seconds: Float64Array;
  kind: TimeKind;
  unit: UnitName;
  absolute: boolean;
  /** Seconds since 1970 that were taken off an absolute time. */
  base: number | null;
  notes: TimeNote[];
}

function inSeconds({ name, values, unit, format }: TimeCandidate, engineSpeedRpm: Float64Array | null): InSeconds {
  const firstValue = values.find(Number.isFinite) ?? 0;
  if (format?.kind === 'dateTime') {
    const seconds = spread(values.map((value) => value - firstValue));
    return { ...seconds, kind: 'dateTime', unit: 's', absolute: true, base: firstValue, notes: spreadNote(seconds.stamps, name) };
  }
  if (format) {
    const seconds = spread(values);
    return { ...seconds, kind: 'clock', unit: 's', absolute: false, base: null, notes: spreadNote(seconds.stamps, name) };
  }
  const epoch = epochFactor(firstValue);
  if (epoch !== null) {
    const seconds = spread(values.map((value) => (value - firstValue) * epoch));
    const notes: TimeNote[] = [{ code: 'kind-judged', column: name, kind: 'epoch' }, ...spreadNote(seconds.stamps, name)];
    return { ...seconds, kind: 'epoch', unit: epoch === 1 ? 's' : 'ms', absolute: true, base: firstValue * epoch, notes };
  }
  const step = medianStep(values);
  if (firstValue > SERIAL_DAYS.from && firstValue < SERIAL_DAYS.to && step < 1e-3 && unit === null) {
    const seconds = values.map((value) => (value - firstValue) * SECONDS_A_DAY);
    const base = (firstValue - SERIAL_DAYS.epoch) * SECONDS_A_DAY;
    return { seconds, kind: 'serial', unit: 's', absolute: true, base, notes: [{ code: 'kind-judged', column: name, kind: 'serial' }] };
  }
  // A share of a day, as a spreadsheet keeps a clock without a date.
  if (unit === null && firstValue >= 0 && duration(values) < 1 && step > 0 && step < 2e-5 && values.every((value) => !(value >= 1.5))) {
    const seconds = values.map((value) => value * SECONDS_A_DAY);
    return {
      seconds,
      kind: 'clock',
      unit: 's',
      absolute: false,
      base: null,
      notes: [{ code: 'kind-judged', column: name, kind: 'clock' }],
    };
  }
  const [judged, notes] = unit ? [unit, [] as TimeNote[]] : judgedUnit(name, values, step, engineSpeedRpm);
  const seconds = spread(values.map((value) => value * UNITS[judged].factor));
  return { ...seconds, kind: 'elapsed', unit: judged, absolute: false, base: null, notes: [...notes, ...spreadNote(seconds.stamps, name)] };
}

const spreadNote = (stamps: number, column: string): TimeNote[] => (stamps > 0 ? [{ code: 'spread', column, stamps }] : []);

/** What numbers of seconds, milli-, micro- or nanoseconds since 1970 are multiplied by. */
function epochFactor(value: number): number | null {
  for (const factor of [1, 1e-3, 1e-6, 1e-9]) if (value * factor > EPOCH_S.from && value * factor < EPOCH_S.to) return factor;
  return null;
}

function judgedUnit(name: string, values: Float64Array, step: number, engineSpeedRpm: Float64Array | null): [UnitName, TimeNote[]] {
  const units = ['s', 'ms', 'min', 'µs'] as const;
  const bySteps = units.filter((unit) => {
    const seconds = step * UNITS[unit].factor;
    return seconds >= SAMPLE_STEP_S.shortest && seconds <= SAMPLE_STEP_S.longest;
  });
  const say = (unit: UnitName, by: 'steps' | 'sweep' | 'usual'): [UnitName, TimeNote[]] => [
    unit,
    [{ code: 'unit-assumed', column: name, unit, by, step }],
  ];
  if (bySteps.length === 1) return say(bySteps[0]!, 'steps');
  const rows = engineSpeedRpm && countsRows(values) ? quickestRise(engineSpeedRpm) : null;
  if (rows !== null) {
    if (rows <= COUNTED_ROWS.beyond) return say('s', 'sweep');
    if (rows >= COUNTED_ROWS.below) return say('ms', 'sweep');
    return ['s', [{ code: 'counts-rows', column: name }]];
  }
  const sweep = engineSpeedRpm ? sweepLength(values, engineSpeedRpm) : null;
  if (sweep !== null) {
    const bySweep = (bySteps.length > 0 ? bySteps : units).filter((unit) => {
      const seconds = sweep * UNITS[unit].factor;
      return seconds >= SWEEP_S.shortest && seconds <= SWEEP_S.longest;
    });
    if (bySweep[0]) return say(bySweep[0], 'sweep');
  }
  return say(bySteps[0] ?? 's', 'usual');
}

/** Whether a column rises by one from row to row. */
function countsRows(values: Float64Array): boolean {
  for (let i = 1; i < values.length; i += 1) if (values[i]! - values[i - 1]! !== 1) return false;
  return true;
}

/** The fewest rows over which the engine rises by the sweep's span, wherever it idled before; null where it never does. */
function quickestRise(speed: Float64Array): number | null {
  let best: number | null = null;
  // Rows from which a later one may have risen, by ascending speed: a lower one that is later makes the earlier ones useless.
  const from: number[] = [];
  let first = 0;
  for (let i = 0; i < speed.length; i += 1) {
    if (!Number.isFinite(speed[i]!)) continue;
    while (first < from.length && speed[i]! - speed[from[first]!]! >= SWEEP_RISE_RPM) {
      best = Math.min(best ?? Infinity, i - from[first]!);
      first += 1;
    }
    while (from.length > first && speed[from.at(-1)!]! >= speed[i]!) from.pop();
    from.push(i);
  }
  return best;
}

/** Time, as written, that the engine takes for its fastest rise by the sweep's span. */
function sweepLength(time: Float64Array, speed: Float64Array): number | null {
  let best: number | null = null;
  let low = 0;
  for (let i = 1; i < speed.length; i += 1) {
    if (!(speed[i]! >= speed[low]!)) low = i;
    while (low < i && speed[i]! - speed[low + 1]! >= SWEEP_RISE_RPM && speed[low + 1]! >= speed[low]!) low += 1;
    if (speed[i]! - speed[low]! >= SWEEP_RISE_RPM) {
      const length = time[i]! - time[low]!;
      if (best === null || length < best) best = length;
    }
  }
  return best;
}

/** Stamps that repeat since the clock is coarser than the samples are spread evenly until the next one. */
function spread(seconds: Float64Array): { seconds: Float64Array; stamps: number } {
  let repeated = 0;
  let known = 0;
  let last = Number.NaN;
  for (const value of seconds) {
    if (!Number.isFinite(value)) continue;
    known += 1;
    if (value === last) repeated += 1;
    last = value;
  }
  if (known < 10 || repeated < REPEATED_SHARE * known) return { seconds, stamps: 0 };
  const even = seconds.slice();
  const rows = [...seconds.keys()].filter((i) => Number.isFinite(seconds[i]!));
  const stampS = typicalStamp(seconds, rows);
  for (let from = 0; from < rows.length;) {
    let to = from + 1;
    while (to < rows.length && seconds[rows[to]!] === seconds[rows[from]!]) to += 1;
    const next =
      to < rows.length && seconds[rows[to]!]! - seconds[rows[from]!]! < 5 * stampS && seconds[rows[to]!]! > seconds[rows[from]!]!
        ? seconds[rows[to]!]!
        : seconds[rows[from]!]! + stampS;
    for (let i = from; i < to; i += 1) even[rows[i]!] = seconds[rows[from]!]! + ((next - seconds[rows[from]!]!) * (i - from)) / (to - from);
    from = to;
  }
  return { seconds: even, stamps: repeated };
}

function typicalStamp(seconds: Float64Array, rows: readonly number[]): number {
  const steps: number[] = [];
  for (let i = 1; i < rows.length && steps.length < 500; i += 1) {
    const step = seconds[rows[i]!]! - seconds[rows[i - 1]!]!;
    if (step > 0) steps.push(step);
  }
  steps.sort((a, b) => a - b);
  return steps[steps.length >> 1] ?? 1;
}
