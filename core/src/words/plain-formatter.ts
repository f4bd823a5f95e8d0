import { differenceFromSi, fromSi, type UnitName } from '../units/units.js';
import type { Formatter } from './formatter.js';
import { plain, signed, tied, withInterval } from './values.js';

/** The units that a reader may choose among; the others are everybody's. */
export interface ChosenUnits {
  temperature: UnitName;
  pressure: UnitName;
}

/** Decimals of a pressure in a unit, so that it shows about what kPa with one decimal do. */
const PRESSURE_DIGITS: Partial<Record<UnitName, number>> = { kPa: 1, psi: 2, bar: 3, inH2O: 1 };

/** A formatter for chosen units; without any: °C and kPa, as the exchange format has it. */
export function formatterFor({ temperature, pressure }: ChosenUnits = { temperature: '°C', pressure: 'kPa' }): Formatter {
  const kelvin = (value: number) => differenceFromSi(value, temperature);
  const differenceUnit = temperature === '°C' ? 'K' : temperature;
  const pressureDigits = PRESSURE_DIGITS[pressure] ?? 1;
  const pascal = (value: number) => fromSi(value, pressure);
  return {
    percent: (value, digits) => tied(signed(value, digits), '%'),
    temperature: (celsius) => tied(plain(fromSi(celsius, temperature), 1), temperature),
    temperatureDifference: (value) => tied(signed(kelvin(value)), differenceUnit),
    temperatureSpan: (value) => tied(plain(Math.abs(kelvin(value)), 1), differenceUnit),
    pressure: (value) => tied(plain(pascal(value), pressureDigits), pressure),
    pressureDifference: (value) => tied(signed(pascal(value), pressureDigits + 1), pressure),
    interval(kind, { value, low, high }) {
      if (kind === 'percent') return stated(value, low, high, '%');
      if (kind === 'lambda') return stated(value, low, high, 'λ', 3);
      const to = kind === 'temperatureDifference' ? kelvin : pascal;
      const unit = kind === 'temperatureDifference' ? differenceUnit : pressure;
      return stated(to(value), to(low), to(high), unit, kind === 'pressureDifference' ? pressureDigits + 1 : undefined);
    },
    massFlow: (value) => tied(plain(1000 * value, 0), 'g/s'),
    rpm: (value) => tied(`${Math.round(value)}`, 'rpm'),
    band: ([low, high]) => tied(`${Math.round(low)} to ${Math.round(high)}`, 'rpm'),
  };
}

/** An interval as a sentence states it: with its level. */
const stated = (value: number, low: number, high: number, unit: string, digits?: number): string =>
  withInterval(value, low, high, unit, digits, '95\u00a0%: ');

/** Words in °C and kPa. */
export const PLAIN_FORMATTER: Formatter = formatterFor();
