import { differenceFromSi, fromSi, type UnitName } from '../units/units.js';
import { shownUnitOf, shownValueOf, USUAL_UNITS, type ChosenUnits } from '../units/shown-unit.js';
import type { FigureKind, Formatter } from './formatter.js';
import { ends, plain, signed, tied } from './values.js';

/** Decimals of a pressure in a unit, so that it shows about what kPa with one decimal do. */
const PRESSURE_DIGITS: Partial<Record<UnitName, number>> = { kPa: 1, psi: 2, bar: 3, inH2O: 1 };

/** A formatter for chosen units; without any: °C and kPa, as the exchange format has it. */
export function formatterFor(chosen: ChosenUnits = USUAL_UNITS): Formatter {
  const { temperature, pressure, power } = chosen;
  const kelvin = (value: number) => differenceFromSi(value, temperature);
  const differenceUnit = temperature === '°C' ? 'K' : temperature;
  const pressureDigits = PRESSURE_DIGITS[pressure] ?? 1;
  const pascal = (value: number) => fromSi(value, pressure);
  const same = (value: number) => value;
  const figures: Record<FigureKind, { unit: string; digits: number; to: (value: number) => number }> = {
    percent: { unit: '%', digits: 1, to: same },
    temperatureDifference: { unit: differenceUnit, digits: 1, to: kelvin },
    pressureDifference: { unit: pressure, digits: pressureDigits + 1, to: pascal },
    lambda: { unit: 'λ', digits: 3, to: same },
    seconds: { unit: 's', digits: 2, to: same },
    rpm: { unit: 'rpm', digits: 0, to: same },
    number: { unit: '', digits: 1, to: same },
    count: { unit: '', digits: 0, to: same },
  };
  const figure = (kind: FigureKind, value: number) => tied(signed(figures[kind].to(value), figures[kind].digits), figures[kind].unit);
  const endsOf = (kind: FigureKind, low: number, high: number) => ends(figures[kind].to(low), figures[kind].to(high), figures[kind].digits);
  return {
    percent: (value, digits) => tied(signed(value, digits), '%'),
    temperature: (celsius) => tied(plain(fromSi(celsius, temperature), 1), temperature),
    temperatureDifference: (value) => figure('temperatureDifference', value),
    temperatureSpan: (value) => tied(plain(Math.abs(kelvin(value)), 1), differenceUnit),
    pressure: (value) => tied(plain(pascal(value), pressureDigits), pressure),
    pressureDifference: (value) => figure('pressureDifference', value),
    interval: (kind, { value, low, high }) => `${figure(kind, value)}\u00a0(95\u00a0%: ${endsOf(kind, low, high)})`,
    figure,
    ends: endsOf,
    unit: (kind) => figures[kind].unit,
    level: (kind, value) => tied(plain(figures[kind].to(value), figures[kind].digits), figures[kind].unit),
    power: (watts) => tied(plain(fromSi(watts, power), 1), power),
    massFlow: (value) => tied(plain(1000 * value, 0), 'g/s'),
    rpm: (value) => tied(`${Math.round(value)}`, 'rpm'),
    shownValue: (value, unit, isDifference = false) => shownValueOf(value, unit, isDifference, chosen),
    shownUnit: (unit, isDifference = false) => shownUnitOf(unit, isDifference, chosen),
    band: ([low, high]) => tied(`${Math.round(low)} to ${Math.round(high)}`, 'rpm'),
  };
}

/** Words in °C and kPa. */
export const PLAIN_FORMATTER: Formatter = formatterFor();
