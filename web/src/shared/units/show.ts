import { differenceFromSi, formatterFor, fromSi, plain, signed, type Formatter, type UnitName } from '@gezeit/core';
import type { ChosenUnits } from './units-store.js';

/** A figure with a fixed number of decimals and its sign. */
export const withSign = (value: number, digits: number): string => signed(value, digits);
export { plain };

/** Shows values kept in SI in the units that the user has chosen. Every figure on the screen goes through here. */
export class Show {
  /** How sentences are written in these units. */
  readonly words: Formatter;

  constructor(readonly units: ChosenUnits) {
    this.words = formatterFor(units);
  }

  /** Power from kW, as the findings give it. */
  power(kW: number | null, digits = 1): string {
    return kW === null ? '–' : plain(this.powerOf(kW), digits);
  }

  powerOf(kW: number): number {
    return fromSi(kW * 1000, this.units.power);
  }

  temperature(celsius: number | null, digits = 1): string {
    return celsius === null ? '–' : plain(this.temperatureOf(celsius), digits);
  }

  temperatureOf(celsius: number): number {
    return fromSi(celsius, this.units.temperature);
  }

  /** A difference of temperatures: K or °F. */
  temperatureDifference(kelvin: number | null, digits = 1): string {
    return kelvin === null ? '–' : withSign(this.differenceOf(kelvin), digits);
  }

  differenceOf(kelvin: number): number {
    return differenceFromSi(kelvin, this.units.temperature);
  }

  /** A pressure, or a difference of pressures, from kPa in the chosen unit. */
  pressureOf(kPa: number): number {
    return fromSi(kPa * 1000, this.units.pressure);
  }

  get differenceUnit(): string {
    return this.units.temperature === '°C' ? 'K' : '°F';
  }

  /** Pressure from kPa, to so many significant figures. */
  pressure(kPa: number | null, significant = 4): string {
    if (kPa === null) return '–';
    const value = fromSi(kPa * 1000, this.units.pressure);
    const digits = value === 0 ? 0 : Math.max(0, significant - 1 - Math.floor(Math.log10(Math.abs(value))));
    return plain(value, digits);
  }

  /** The unit in which a logged quantity is drawn: the chosen one of its kind, else its own. */
  unitFor(dimension: string, fallback: UnitName): UnitName {
    if (dimension === 'power' || dimension === 'torque' || dimension === 'temperature' || dimension === 'pressure')
      return this.units[dimension];
    return fallback;
  }
}

/** A value from SI in a unit, for drawing. */
export function drawn(values: ArrayLike<number>, unit: UnitName): number[] {
  return Array.from(values, (value) => fromSi(value, unit));
}
