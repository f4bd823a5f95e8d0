import { differenceFromSi, fromSi, UNITS, type UnitName } from '@gezeit/core';
import type { ChosenUnits } from './units-store.js';

/** A true minus sign, and no sign before zero. */
export function withSign(value: number, digits: number): string {
  const text = Math.abs(value).toFixed(digits);
  if (Number(text) === 0) return text;
  return `${value < 0 ? '−' : '+'}${text}`;
}

/** A number with a true minus. */
export function plain(value: number, digits: number): string {
  const text = Math.abs(value).toFixed(digits);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
}

/** A value as sentences of the core give it. */
const VALUE_WITH_UNIT = /([+\-−]?)(\d+(?:\.\d+)?) (°C|K|kPa|kW|N·m)(?![\p{L}\d/·²³])/gu;
type SentenceUnit = '°C' | 'K' | 'kPa' | 'kW' | 'N·m';

/** Shows values kept in SI in the units that the user has chosen. Every figure on the screen goes through here. */
export class Show {
  constructor(readonly units: ChosenUnits) {}

  /** Power from kW, as the findings give it. */
  power(kW: number | null, digits = 1): string {
    return kW === null ? '–' : plain(fromSi(kW * 1000, this.units.power), digits);
  }

  temperature(celsius: number | null, digits = 1): string {
    return celsius === null ? '–' : plain(fromSi(celsius, this.units.temperature), digits);
  }

  /** A difference of temperatures: K or °F. */
  temperatureDifference(kelvin: number | null, digits = 1): string {
    return kelvin === null ? '–' : withSign(this.differenceOf(kelvin), digits);
  }

  differenceOf(kelvin: number): number {
    return differenceFromSi(kelvin, this.units.temperature);
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

  /** A sentence of the core, in which values stand with SI units: its figures in the chosen units, with as many significant ones. */
  sentence(text: string): string {
    return text.replace(VALUE_WITH_UNIT, (_, sign: string, figure: string, unit: SentenceUnit) => {
      const value = Number(figure) * (/[-−]/.test(sign) ? -1 : 1);
      const [chosen, shown] = this.#inSentence(value, unit);
      if (chosen === unit) return `${sign}${figure} ${unit}`;
      const decimals = figure.split('.')[1]?.length ?? 0;
      const finer = Math.max(0, Math.round(Math.log10(Math.abs(value / shown)) || 0));
      const digits = unit === '°C' || unit === 'K' ? decimals : decimals + finer;
      return `${sign === '+' ? withSign(shown, digits) : plain(shown, digits)} ${chosen}`;
    });
  }

  #inSentence(value: number, unit: SentenceUnit): [string, number] {
    const { temperature, pressure, power, torque } = this.units;
    switch (unit) {
      case '°C':
        return [temperature, fromSi(value, temperature)];
      case 'K':
        return [this.differenceUnit, this.differenceOf(value)];
      case 'kPa':
        return [pressure, fromSi(value * 1000, pressure)];
      case 'kW':
        return [power, fromSi(value * 1000, power)];
      case 'N·m':
        return [torque, fromSi(value, torque)];
    }
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

/** Whether a text names one of the units. */
export function isUnit(text: string): text is UnitName {
  return text in UNITS;
}
