import type { Quantity } from '@gezeit/contract';
import { differenceFromSi, dimensionOf, fromSi, QUANTITY_UNITS, unitFromText, type UnitName } from '@gezeit/core';
import type { Show } from '../../../shared/units/show.js';

/** A channel's quantity and the unit in its file. */
interface Measured {
  quantity: Quantity | null;
  unitText: string | null;
}

/** The unit in which a column is drawn; null where it is drawn as it is written. */
export function columnUnit({ quantity, unitText }: Measured, show: Show): UnitName | null {
  if (!quantity) return null;
  const { dimension, implied } = QUANTITY_UNITS[quantity];
  const own = unitText ? unitFromText(unitText) : null;
  const fallback = own && dimensionOf(own) === dimension ? own : implied;
  const unit = show.unitFor(dimension, fallback ?? 's');
  return dimensionOf(unit) === dimension ? unit : fallback;
}

/** How values that are kept inside are drawn: their unit as a text, and their change into it. */
export function shownIn(
  unit: UnitName | null,
  otherwise: string,
  isDifference: boolean,
  show: Show,
): { text: string; change: (value: number) => number } {
  if (unit === null) return { text: otherwise, change: (value) => value };
  const isTemperature = dimensionOf(unit) === 'temperature';
  const shown = show.unitFor(dimensionOf(unit), unit);
  if (!isDifference) return { text: shown, change: (value) => fromSi(value, shown) };
  return { text: isTemperature ? show.differenceUnit : shown, change: (value) => differenceFromSi(value, shown) };
}
