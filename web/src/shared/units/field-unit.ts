import { dimensionOf, type UnitName } from '@gezeit/core';
import type { ChosenUnits } from './units-store.js';

/** The unit in which a field is shown: the chosen one of its kind, else its own; differences of temperatures are K or °F. */
export function fieldUnit(unit: UnitName, difference: boolean, chosen: ChosenUnits): UnitName {
  const dimension = dimensionOf(unit);
  if (dimension === 'temperature') return difference && chosen.temperature === '°C' ? 'K' : chosen.temperature;
  if (dimension === 'power' || dimension === 'torque' || dimension === 'pressure') return chosen[dimension];
  return unit;
}
