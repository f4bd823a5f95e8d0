import { differenceFromSi, dimensionOf, fromSi, toSi, UNITS, type UnitName } from './units.js';

/** The units that a reader may choose among; the others are everybody's. */
export interface ChosenUnits {
  power: UnitName;
  torque: UnitName;
  temperature: UnitName;
  pressure: UnitName;
}

/** What is shown until something else is chosen, and what the exchange format has. */
export const USUAL_UNITS: ChosenUnits = { power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'kPa' };

/** Whether a text names one of the units. */
export function isUnit(text: string): text is UnitName {
  return text in UNITS;
}

/** The unit in which a field is shown: the chosen one of its kind, else its own; differences of temperatures are K or °F. */
export function fieldUnit(unit: UnitName, difference: boolean, chosen: ChosenUnits): UnitName {
  const dimension = dimensionOf(unit);
  if (dimension === 'temperature') return difference && chosen.temperature === '°C' ? 'K' : chosen.temperature;
  if (dimension === 'power' || dimension === 'torque' || dimension === 'pressure') return chosen[dimension];
  return unit;
}

/** How a value is kept that has a unit of its own, such as a gate's or a limit's. */
export interface OwnUnit {
  name: UnitName;
  difference: boolean;
  toInside(value: number): number;
  fromInside(inside: number): number;
}

/** The unit that a value is kept in, by its text; one that Gezeit does not convert is taken for a plain number. Kelvin are differences. */
export function ownUnit(unit: string, asDifference = false): OwnUnit {
  const name = isUnit(unit) ? unit : '–';
  const difference = asDifference || name === 'K';
  return {
    name,
    difference,
    toInside: (value) => (difference ? value * UNITS[name].factor : toSi(value, name)),
    fromInside: (inside) => Number((difference ? differenceFromSi(inside, name) : fromSi(inside, name)).toPrecision(6)),
  };
}

/** The unit in which a value with a unit of its own is shown; as it is written where Gezeit does not convert it. */
export function shownUnitOf(unit: string, asDifference: boolean, chosen: ChosenUnits): string {
  if (!isUnit(unit)) return unit;
  const { name, difference } = ownUnit(unit, asDifference);
  const shown = fieldUnit(name, difference, chosen);
  return shown === '–' ? '' : shown;
}

/** Such a value in the unit in which it is shown. */
export function shownValueOf(value: number, unit: string, asDifference: boolean, chosen: ChosenUnits): number {
  const { name, difference, toInside } = ownUnit(unit, asDifference);
  const shown = fieldUnit(name, difference, chosen);
  return difference ? differenceFromSi(toInside(value), shown) : fromSi(toInside(value), shown);
}
