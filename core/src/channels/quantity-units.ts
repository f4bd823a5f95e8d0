import { QUANTITIES, type Quantity } from '@gezeit/contract';
import type { Dimension, UnitName } from '../units/units.js';
import { EXPECTATIONS } from './expectations.js';

/** What each quantity is measured in, and the unit that its name alone implies (null: it must be written, or judged by the values). */
export const QUANTITY_UNITS = Object.fromEntries(
  QUANTITIES.map((quantity) => {
    const { dimension, units } = EXPECTATIONS[quantity];
    return [quantity, { dimension, implied: units.length === 1 || dimension === 'temperature' ? (units[0] ?? null) : null }];
  }),
) as Readonly<Record<Quantity, { dimension: Dimension; implied: UnitName | null }>>;
