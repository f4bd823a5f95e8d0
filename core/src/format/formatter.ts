import type { BandRpm } from './values.js';

/** What a figure of an answer is, in the units kept inside: per cent, K, Pa, lambda, a number of a unit of its own, a count. */
export type FigureKind = 'percent' | 'temperatureDifference' | 'pressureDifference' | 'lambda' | 'seconds' | 'rpm' | 'number' | 'count';

/** How values become text: the units that a reader has chosen, and their rounding. Words are written with it and with nothing else. */
export interface Formatter {
  /** A difference in per cent with its sign; and with its interval. */
  percent(value: number, digits?: number): string;
  /** °C, or what was chosen. */
  temperature(celsius: number): string;
  /** A difference of temperatures with its sign. */
  temperatureDifference(kelvin: number): string;
  /** Its size alone, without a sign. */
  temperatureSpan(kelvin: number): string;
  pressure(pascal: number): string;
  pressureDifference(pascal: number): string;
  /** Figures of an interval in one unit, with the unit and the level once: "+1.8 % (95 %: +0.4 to +3.2)". */
  interval(kind: FigureKind, value: { value: number; low: number; high: number }): string;
  /** The same in parts, for tables: the figure with its unit, the interval's ends without, and the unit. */
  figure(kind: FigureKind, value: number): string;
  ends(kind: FigureKind, low: number, high: number): string;
  unit(kind: FigureKind): string;
  /** A figure that is no difference: without a plus. */
  level(kind: FigureKind, value: number): string;
  /** kW, or what was chosen. */
  power(watts: number): string;
  massFlow(kgPerS: number): string;
  rpm(value: number): string;
  band(band: BandRpm): string;
  /** A value that is kept in a unit of its own, such as a gate's, in the unit in which it is shown; and that unit. */
  shownValue(value: number, unit: string, isDifference?: boolean): number;
  shownUnit(unit: string, isDifference?: boolean): string;
}
