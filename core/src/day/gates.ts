import type { LiveHistory, LiveReading, PlanGate } from '@gezeit/contract';
import { gateQuantity, type GateSource } from '../channels/gate-quantity.js';
import { fromSi, UNITS, type UnitName } from '../units/units.js';
import { lastPull, type DayState } from './day-state.js';
import { predictReady, type ReadyMoment } from './ready-time.js';
import { weatherNow } from './weather-now.js';

/** What is known at a moment of the car and its surroundings. */
export interface CellNow {
  nowMs: number;
  readings: readonly LiveReading[];
  history: LiveHistory;
}

export type GateStanding = 'met' | 'waiting' | 'passed' | 'unknown';

/** A gate with its value now and how it moves. */
export interface GateView {
  gate: PlanGate;
  /** In the gate's own unit. */
  value: number | null;
  source: 'stream' | 'typed' | 'clock' | null;
  /** Change per minute, in the gate's unit; null where it is not known. */
  perMin: number | null;
  standing: GateStanding;
  /** When it will be met; null where it is met, or where waiting does not meet it. */
  ready: ReadyMoment | null;
}

/** A streamed reading older than this is none, s on the day's clock; a typed temperature holds as long. Assumption. */
const READING_HOLDS_S = 150;
const TREND_S = 60;
const SECOND_MS = 1000;
/** Gates whose typed value stays until it is typed again. */
const LASTING_UNITS = ['km/h', 'm/s', 'm', 'kPa', 'rpm', '%', '–', ''];
/** After a pull the metal near the engine first gets hotter: the fit begins at the highest reading. */
const LEAST_HISTORY = 8;

/** All gates of a plan at a moment. */
export function gateViews(gates: readonly PlanGate[], state: DayState, cell: CellNow): GateView[] {
  return gates.map((gate) => gateView(gate, state, cell));
}

function gateView(gate: PlanGate, state: DayState, cell: CellNow): GateView {
  if (gate.unit === 'min') return restGate(gate, state, cell);
  const source = gateQuantity(gate);
  const streamed = source ? streamedSeries(source, gate.unit, state, cell) : null;
  const last = streamed ? streamed.value.at(-1)! : null;
  const isFresh = streamed !== null && cell.nowMs - streamed.atMs.at(-1)! <= READING_HOLDS_S * SECOND_MS;
  if (streamed && isFresh) {
    const perMin = trend(streamed, cell.nowMs);
    const standing = standingOf(gate, last!, perMin);
    return {
      gate,
      value: last,
      source: 'stream',
      perMin,
      standing,
      ready: standing === 'waiting' && isTemperature(gate) ? readyOf(gate, source!, streamed, state, cell) : null,
    };
  }
  const typed = state.typedReadings.get(gate.id);
  const holds = typed && (LASTING_UNITS.includes(gate.unit) || cell.nowMs - typed.atMs <= READING_HOLDS_S * SECOND_MS);
  if (!holds || typed.value === null) return { gate, value: null, source: null, perMin: null, standing: 'unknown', ready: null };
  return { gate, value: typed.value, source: 'typed', perMin: null, standing: standingOf(gate, typed.value, null), ready: null };
}

/** Time since the last pull of any kind: reached, never overtaken by waiting (a longer rest is told by its value). */
function restGate(gate: PlanGate, state: DayState, { nowMs }: CellNow): GateView {
  const last = lastPull(state);
  const from = last ? (last.endedMs ?? nowMs) : null;
  if (from === null) return { gate, value: null, source: 'clock', perMin: null, standing: 'met', ready: null };
  // A window that has not heard of the pull's end yet may still be a moment before it.
  const value = Math.max(0, nowMs - from) / 60_000;
  const left = (gate.target - gate.tolerance - value) * 60;
  if (left <= 0) return { gate, value, source: 'clock', perMin: 1, standing: value > gateEnds(gate).high ? 'passed' : 'met', ready: null };
  return { gate, value, source: 'clock', perMin: 1, standing: 'waiting', ready: { kind: 'range', lowS: left, midS: left, highS: left } };
}

/** The ends of a gate's band that count. */
export function gateEnds({ target, tolerance, side }: PlanGate): { low: number; high: number } {
  return { low: side === 'at-most' ? -Infinity : target - tolerance, high: side === 'at-least' ? Infinity : target + tolerance };
}

function withinGate(gate: PlanGate, value: number): boolean {
  const { low, high } = gateEnds(gate);
  return value >= low - 1e-9 && value <= high + 1e-9;
}

/** Moving away from the band is passed: waiting does not bring it back. Slower than this a minute, a value stands. */
const STANDS_PER_MIN = 0.05;

function standingOf(gate: PlanGate, value: number, perMin: number | null): GateStanding {
  if (withinGate(gate, value)) return 'met';
  if (perMin === null || Math.abs(perMin) < STANDS_PER_MIN) return 'waiting';
  return value > gateEnds(gate).high === perMin < 0 ? 'waiting' : 'passed';
}

interface Series {
  atMs: number[];
  value: number[];
}

/** Only temperatures come to their gate by waiting. */
const isTemperature = ({ unit }: PlanGate) => unit === '°C' || unit === 'K';

/** The course of a gate's quantity in the gate's unit; the newest reading alone where no course of it is kept. */
function streamedSeries({ quantity, aboveAmbient }: GateSource, unit: string, state: DayState, cell: CellNow): Series | null {
  const newest = cell.readings.find((reading) => reading.quantity === quantity);
  const course = cell.history[quantity];
  const own = course && course.atMs.length > 0 ? course : newest ? { atMs: [newest.atMs], value: [newest.value] } : null;
  if (!own) return null;
  if (!aboveAmbient)
    return { atMs: own.atMs, value: unit in UNITS ? own.value.map((value) => fromSi(value, unit as UnitName)) : own.value };
  const ambient = ambientNow(state, cell);
  return ambient === null ? null : { atMs: own.atMs, value: own.value.map((value) => value - ambient) };
}

/** Ambient temperature by its own sensor, else as typed, °C. */
export const ambientNow = (state: DayState, { readings }: Pick<CellNow, 'readings'>): number | null =>
  weatherNow(state, readings).weather.temperatureC;

function trend({ atMs, value }: Series, nowMs: number): number | null {
  const from = atMs.findIndex((at) => at >= nowMs - TREND_S * SECOND_MS);
  if (from < 0 || atMs.length - from < 3) return null;
  const minutes = atMs.slice(from).map((at) => (at - nowMs) / 60_000);
  const values = value.slice(from);
  const [meanT, meanV] = [minutes, values].map((list) => list.reduce((sum, entry) => sum + entry, 0) / list.length) as [number, number];
  const spread = minutes.reduce((sum, t) => sum + (t - meanT) ** 2, 0);
  if (spread < 1e-6) return null;
  return minutes.reduce((sum, t, i) => sum + (t - meanT) * (values[i]! - meanV), 0) / spread;
}

/** The ready moment from what was logged since the last pull or swap, from the highest reading on where it cools. */
function readyOf(gate: PlanGate, source: GateSource, { atMs, value }: Series, state: DayState, { nowMs }: CellNow): ReadyMoment {
  const { low, high } = gateEnds(gate);
  const cools = value.at(-1)! > high;
  const goal = cools ? high : low;
  const sinceMs = Math.max(lastPull(state)?.endedMs ?? 0, state.swaps.at(-1)?.atMs ?? 0);
  let turn = Math.max(
    0,
    atMs.findIndex((at) => at >= sinceMs),
  );
  for (let i = turn; i < value.length; i++) if (cools ? value[i]! >= value[turn]! : value[i]! <= value[turn]!) turn = i;
  const [t, y] = [atMs.slice(turn).map((at) => (at - nowMs) / SECOND_MS), value.slice(turn)];
  if (t.length < LEAST_HISTORY) return { kind: 'unknown', why: 'too-little-logged' };
  return predictReady(t, y, goal, { surroundings: source.aboveAmbient ? 0 : null, resting: cools ? restingValue(source, state) : null });
}

/** Where the standing car came to before its pulls of this day: the lowest start is an upper bound of where it goes. */
function restingValue({ quantity, aboveAmbient }: GateSource, { pulls }: DayState): number | null {
  const field = ({ intakeAirTemperature: 'intakeAirC', coolantTemperature: 'coolantC', oilTemperature: 'oilC' } as const)[
    quantity as 'oilTemperature'
  ];
  if (!field) return null;
  const starts = pulls.flatMap(({ begun }) => {
    const at = begun.start[field];
    const ambient = begun.weather?.temperatureC ?? null;
    if (at === null || (aboveAmbient && ambient === null)) return [];
    return [aboveAmbient ? at - ambient! : at];
  });
  return starts.length > 0 ? Math.min(...starts) : null;
}
