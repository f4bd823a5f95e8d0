import type { Correction, Pull, Quantity } from '@gezeit/contract';
import type { AirState } from '../air/moist-air.js';
import { isPossibleAir, type AirQuantity } from '../air/possible-air.js';
import { interpolate } from '../numeric/interpolate.js';
import { median } from '../numeric/means.js';
import { said, type AnySaid } from '../said.js';
import { samplesBetween, type Trace } from './traces.js';

/** State of the car and the air at the start of a pull; null where nothing says. */
export interface StartState {
  intakeAirC: number | null;
  coolantC: number | null;
  oilC: number | null;
}

/** Time before full throttle over which start values are taken, s. */
const START_SPAN_S = 0.5;
const STATED_APART = { temperatureK: 3, pressurePa: 500 };
/** Humidity where nothing says it, fraction; assumption (20 points are worth 0.4 % of power at 25 °C). */
const ASSUMED_HUMIDITY = 0.5;

interface StartAndWarnings {
  start: StartState;
  warnings: AnySaid[];
}

/** What the logs of a pull say of the air around, and of corrections already made. */
export interface LoggedValues {
  ambientC: number[];
  ambientPa: number[];
  humidityPct: number[];
  /** Columns that the device had already corrected, and by which standard. */
  corrected: Map<Quantity, Correction>;
}

export const nothingLogged = (): LoggedValues => ({ ambientC: [], ambientPa: [], humidityPct: [], corrected: new Map() });

/** Takes the start values of a slow channel from the half second before full throttle; the first device that has one counts. */
export function collectStart(start: StartState, quantity: Quantity, trace: Trace, fromS: number): void {
  const field = { intakeAirTemperature: 'intakeAirC', coolantTemperature: 'coolantC', oilTemperature: 'oilC' }[quantity as string] as
    | keyof StartState
    | undefined;
  if (!field || start[field] !== null) return;
  const before = samplesBetween(trace, fromS - START_SPAN_S, fromS);
  const value = before.length > 0 ? median(before) : interpolate(trace.timeS, trace.values, fromS);
  if (Number.isFinite(value)) start[field] = value;
}

/** Takes the mean of an ambient channel over the pull. */
export function collectWeather(logged: LoggedValues, quantity: Quantity, trace: Trace, fromS: number, toS: number): void {
  const list = { ambientTemperature: logged.ambientC, ambientPressure: logged.ambientPa, relativeHumidity: logged.humidityPct }[
    quantity as string
  ];
  if (!list) return;
  const samples = samplesBetween(trace, fromS, toS);
  if (samples.length > 0) list.push(samples.reduce((sum, value) => sum + value, 0) / samples.length);
}

/** Start values that no log has, as stated; where both say something and differ, a warning. */
export function completeStart(curve: StartAndWarnings, pull: Pull): void {
  const stated: StartState = {
    intakeAirC: pull.start?.intakeAirC ?? null,
    coolantC: pull.start?.coolantC ?? null,
    oilC: pull.start?.oilC ?? null,
  };
  for (const field of ['intakeAirC', 'coolantC', 'oilC'] as const) {
    const logged = curve.start[field];
    const statedC = stated[field];
    if (logged === null) curve.start[field] = statedC;
    else if (statedC !== null && Math.abs(logged - statedC) > STATED_APART.temperatureK)
      curve.warnings.push(said('start-apart', { what: field, loggedC: logged, statedC }));
  }
}

/** The air of a pull: logged before stated, and neither where no weather is like that; null where temperature or pressure is known from nowhere. */
export function airOf(
  { warnings }: Pick<StartAndWarnings, 'warnings'>,
  { ambient }: Pick<Pull, 'ambient'>,
  logged: LoggedValues,
): AirState | null {
  const possible = (quantity: AirQuantity, value: number | null | undefined, isLogged: boolean): number | null => {
    if (value == null) return null;
    if (isPossibleAir(quantity, value)) return value;
    warnings.push(said('air-impossible', { quantity, value, logged: isLogged }));
    return null;
  };
  const loggedC = possible('ambientTemperature', logged.ambientC[0], true);
  const loggedPa = possible('ambientPressure', logged.ambientPa[0], true);
  const loggedPct = possible('relativeHumidity', logged.humidityPct[0], true);
  const statedC = possible('ambientTemperature', ambient?.temperatureC, false);
  const statedPa = possible('ambientPressure', ambient?.pressureKPa == null ? null : ambient.pressureKPa * 1000, false);
  const statedPct = possible('relativeHumidity', ambient?.relativeHumidityPct, false);
  if (loggedC !== null && statedC !== null && Math.abs(loggedC - statedC) > STATED_APART.temperatureK)
    warnings.push(said('ambient-apart', { loggedC, statedC }));
  if (loggedPa !== null && statedPa !== null && Math.abs(loggedPa - statedPa) > STATED_APART.pressurePa)
    warnings.push(said('pressure-apart', { loggedPa, statedPa }));
  const temperatureC = loggedC ?? statedC;
  const pressurePa = loggedPa ?? statedPa;
  const humidityPct = loggedPct ?? statedPct;
  if (temperatureC === null || pressurePa === null) return null;
  if (humidityPct === null) warnings.push(said('humidity-assumed', { percent: 100 * ASSUMED_HUMIDITY }));
  return { temperatureC, pressurePa, relativeHumidity: humidityPct === null ? ASSUMED_HUMIDITY : Math.min(1, humidityPct / 100) };
}
