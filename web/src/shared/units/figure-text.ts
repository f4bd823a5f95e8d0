import type { Figure } from '@gezeit/contract';
import { differenceFromSi, dimensionOf, fromSi, type UnitName, fieldUnit, isUnit } from '@gezeit/core';
import { plain, withSign } from './show.js';
import type { ChosenUnits } from './units-store.js';

/** A figure as it is shown: its value, its interval and its unit. */
export interface ShownFigure {
  value: string;
  range: string | null;
  unit: string;
}

/** Digits behind the point for so many significant figures. */
export function digitsFor(size: number, significant = 3): number {
  if (size === 0 || !Number.isFinite(size)) return 0;
  return Math.max(0, Math.min(6, significant - 1 - Math.floor(Math.log10(Math.abs(size)))));
}

/** A figure in the chosen units; differences and shares of change carry their sign. */
export function figureText(figure: Figure, units: ChosenUnits): ShownFigure {
  const own: UnitName = isUnit(figure.unit) ? figure.unit : '–';
  const unit = fieldUnit(own, figure.difference ?? false, units);
  const shownUnit = unit === '–' ? '' : unit;
  if (figure.value === null) return { value: '–', range: null, unit: shownUnit };
  const to = (value: number) =>
    figure.difference ? differenceFromSi(value, unit) : dimensionOf(own) === 'ratio' ? value : fromSi(value, unit);
  const value = to(figure.value);
  const width = figure.low != null && figure.high != null ? Math.abs(to(figure.high) - to(figure.low)) / 2 : null;
  // As many digits as the interval bears, at least three figures of the value.
  const digits = width ? Math.min(digitsFor(width, 2), Math.max(digitsFor(value, 4), 1)) : digitsFor(value, 3);
  const text = (amount: number) => (figure.difference ? withSign(amount, digits) : plain(amount, digits));
  const range = figure.low != null && figure.high != null ? `${text(to(figure.low))} to ${text(to(figure.high))}` : null;
  return { value: text(value), range, unit: shownUnit };
}
