import { QUANTITIES, type Quantity } from '@gezeit/contract';
import type { Dimension, UnitName } from '../units/units.js';
import { EXPECTATIONS } from './expectations.js';

/** Units that people write beside the usual ones. */
const MORE_UNITS: Partial<Record<Dimension, readonly UnitName[]>> = {
  pressure: ['kPa', 'bar', 'mbar', 'hPa', 'psi', 'inHg', 'inH2O', 'mmH2O', 'mmHg', 'Pa'],
  massFlow: ['g/s', 'kg/h', 'lb/min', 'kg/s'],
  torque: ['N·m', 'lb·ft', 'kgf·m'],
  speed: ['km/h', 'mph', 'm/s', 'ft/s'],
};

/** What each quantity is measured in, and the unit that its name alone implies (null: it must be written, or judged by the values). */
export const QUANTITY_UNITS = Object.fromEntries(
  QUANTITIES.map((quantity) => {
    const { dimension, units } = EXPECTATIONS[quantity];
    return [
      quantity,
      {
        dimension,
        implied:
          units.length === 1 || dimension === 'temperature' || dimension === 'ratio' || quantity === 'injectorTime'
            ? (units[0] ?? null)
            : null,
      },
    ];
  }),
) as Readonly<Record<Quantity, { dimension: Dimension; implied: UnitName | null }>>;

/** Units in which a quantity is met, likelier first: what a person can choose from. */
export function unitsFor(quantity: Quantity): readonly UnitName[] {
  const { units, dimension } = EXPECTATIONS[quantity];
  return [...new Set([...units, ...(MORE_UNITS[dimension] ?? [])])];
}
