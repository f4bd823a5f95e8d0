import type { DayFileSweep, DayWeatherAt } from '@gezeit/contract';
import type { ReadTable } from '../log/log-table.js';
import { interpolate } from '../numeric/interpolate.js';
import { mean } from '../numeric/means.js';
import type { Gearbox } from '../pull/gear-of.js';
import { traceFor } from '../pull/traces.js';
import { kindOf } from '../reading/gather-pulls.js';
import { LONGEST_PULL_FILE_S, shiftOf, sweepEvents, type SweepEvent } from '../reading/sweep-event.js';
import { wallTime } from '../units/wall-time.js';

/** What a file that came on the day says, as the reader of loose files has it. */
export interface DayFile {
  /** What is neither a dyno, an engine control unit nor of the weather is a data box. */
  device: 'ecu' | 'dyno' | 'daq' | 'weather';
  /** Moments of the sweeps, s from the first sample, and where each stands on the file's own clock. */
  sweepsAtS: number[];
  sweeps: (DayFileSweep | null)[];
  lengthS: number;
  /** When its last sample was written by its own clock, ms; null where that tells no date, or nobody knows its zone. */
  endedMs: number | null;
  /** The air of the day, where it is a file of that. */
  weather: DayWeatherAt[] | null;
}

/** A file of the weather is kept beside the day in so many steps at most. */
const MOST_WEATHER = 200;
/** The air is taken from what was logged no further away than this, ms; assumption. */
const WEATHER_WITHIN_MS = 30 * 60_000;

/** Reads a table as a file of the day. `timeZone`: of the cell, as clocks without an offset show it. */
export function dayFileOf(table: ReadTable, gearbox: Gearbox, timeZone: string | null): DayFile {
  const { timeS, clock } = table;
  const kind = kindOf(table);
  const device = kind === 'unknown' ? 'daq' : kind;
  // A curve over engine speed is of one pull, and has no time.
  if (!timeS) return { device, sweepsAtS: device === 'weather' ? [] : [0], sweeps: [null], lengthS: 0, endedMs: null, weather: null };
  const [from, to] = [timeS[0]!, timeS.at(-1)!];
  const beganMs = clock ? beganAt(clock, from, timeZone) : null;
  const lengthS = to - from;
  const endedMs = beganMs === null ? null : beganMs + 1000 * lengthS;
  if (device === 'weather') return { device, sweepsAtS: [], sweeps: [], lengthS, endedMs, weather: weatherOf(table) };
  const events = pullsOf(table, sweepEvents(table, gearbox));
  if (events.length === 0 && lengthS <= LONGEST_PULL_FILE_S && kind !== 'unknown')
    return { device, sweepsAtS: [0], sweeps: [null], lengthS, endedMs, weather: null };
  const sweeps = events.map(({ recording, startS, endS }) => {
    const shiftS = shiftOf(table, recording);
    return { recording, startS: startS - shiftS, endS: endS - shiftS };
  });
  return { device, sweepsAtS: events.map(({ startS }) => startS - from), sweeps, lengthS, endedMs, weather: null };
}

function beganAt({ startsAtMs, zoneMin }: NonNullable<ReadTable['clock']>, fromS: number, timeZone: string | null): number | null {
  if (startsAtMs === null || (zoneMin === null && timeZone === null)) return null;
  return Date.parse(wallTime(startsAtMs + 1000 * fromS, zoneMin, timeZone));
}

/** In a short file without throttle a run through the gears may look like a pull: the largest is it. */
function pullsOf(table: ReadTable, events: SweepEvent[]): SweepEvent[] {
  const { timeS, columns } = table;
  const knowsThrottle = columns.some(({ quantity }) => quantity === 'throttle' || quantity === 'pedal');
  const isShort = timeS!.at(-1)! - timeS![0]! <= LONGEST_PULL_FILE_S;
  if (knowsThrottle || !isShort || events.length < 2 || !events[0]!.map) return events;
  const rise = ({ map }: SweepEvent) => (map ? map.speed.at(-1)! - map.speed[0]! : 0);
  return [events.reduce((most, event) => (rise(event) > rise(most) ? event : most))];
}

function weatherOf(table: ReadTable): DayWeatherAt[] | null {
  const air = {
    temperatureC: traceFor(table, 'ambientTemperature'),
    pressurePa: traceFor(table, 'ambientPressure'),
    humidityPct: traceFor(table, 'relativeHumidity'),
  };
  const { timeS } = table;
  if (!timeS || (!air.temperatureC && !air.pressurePa)) return null;
  const [from, to] = [timeS[0]!, timeS.at(-1)!];
  const count = Math.min(MOST_WEATHER, timeS.length);
  const stepS = (to - from) / count;
  return Array.from({ length: count }, (_, i) => {
    const [a, b] = [from + i * stepS, from + (i + 1) * stepS];
    const at = (trace: (typeof air)['temperatureC'], digits: number, per = 1) => {
      if (!trace) return null;
      const within = trace.values.filter((value, k) => trace.timeS[k]! >= a && trace.timeS[k]! <= b && Number.isFinite(value));
      const value = within.length > 0 ? mean(within) : interpolate(trace.timeS, trace.values, (a + b) / 2);
      return Number.isFinite(value) ? Number((value / per).toFixed(digits)) : null;
    };
    return {
      atS: (a + b) / 2 - from,
      temperatureC: at(air.temperatureC, 2),
      pressureKPa: at(air.pressurePa, 3, 1000),
      relativeHumidityPct: at(air.humidityPct, 1),
    };
  });
}

/** The air that a file of the weather knows for a moment; null where it holds nothing near it. */
export function weatherAt(
  { madeAtMs, lengthS, weather }: { madeAtMs: number; lengthS: number; weather?: readonly DayWeatherAt[] | null | undefined },
  atMs: number,
): Omit<DayWeatherAt, 'atS'> | null {
  if (!weather?.length) return null;
  const beganMs = madeAtMs - 1000 * lengthS;
  const nearest = weather.reduce((best, entry) =>
    Math.abs(beganMs + 1000 * entry.atS - atMs) < Math.abs(beganMs + 1000 * best.atS - atMs) ? entry : best,
  );
  if (Math.abs(beganMs + 1000 * nearest.atS - atMs) > WEATHER_WITHIN_MS) return null;
  const { temperatureC, pressureKPa, relativeHumidityPct } = nearest;
  return { temperatureC, pressureKPa, relativeHumidityPct };
}
