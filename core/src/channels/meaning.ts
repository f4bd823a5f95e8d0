import type { ChannelMapping, Quantity } from '@gezeit/contract';
import { toSi } from '../units/units.js';
import { recogniseHeader } from './recognise.js';
import type { Recognition } from './recognition.js';

/** How a column's numbers become values: (written − zero) / divisor · factor + offset, in its unit. */
export interface Scale extends Pick<Recognition, 'unit' | 'divisor'> {
  zero: number;
  factor: number;
  offset: number;
}

export const scaleOf = (recognition: Recognition, mapping: ChannelMapping | null): Scale => ({
  unit: recognition.unit,
  divisor: recognition.divisor,
  zero: mapping?.zero ?? 0,
  factor: mapping?.factor ?? 1,
  offset: mapping?.offset ?? 0,
});

/** A value as written, in the unit kept inside. */
export function insideValue({ divisor, zero, factor, offset, unit }: Scale, written: number): number {
  return unit === null ? written : toSi(((written - zero) / divisor) * factor + offset, unit);
}

/** A field of a stream: what it is taken for, and how its numbers become values. */
export function meaningOf(header: string): { recognition: Recognition; scale: Scale } {
  const recognition = recogniseHeader(header);
  return { recognition, scale: scaleOf(recognition, null) };
}

/** A manifold pressure against ambient is a boost pressure, an absolute boost the manifold's: what a stream sends is kept under the right one. */
export function gaugeOrAbsolute(quantity: Quantity, gauge: boolean | null): Quantity {
  if (quantity === 'manifoldPressure' && gauge === true) return 'boostPressure';
  if (quantity === 'boostPressure' && gauge === false) return 'manifoldPressure';
  return quantity;
}
