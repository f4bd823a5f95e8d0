import type { LiveReading, PlanStop, Quantity } from '@gezeit/contract';
import { fromSi, UNITS, type UnitName } from '../units/units.js';

/** A limit that was passed, in words. */
export interface StopFinding {
  criterion: string;
  text: string;
}

const QUANTITY_OF: Record<string, Quantity> = {
  lambda: 'lambda',
  knock: 'knockRetard',
  coolant: 'coolantTemperature',
  oil: 'oilTemperature',
};
/** Mixture and knock mean something at full load only. */
const AT_FULL_LOAD = ['lambda', 'knock', 'boost'];

/**
 * The first stop criterion that the newest readings pass; null where all is within limits. The boost limit counts from its target.
 * @param fullLoad whether a pull is under way at full throttle.
 */
export function passedStop(
  stops: readonly PlanStop[],
  readings: readonly LiveReading[],
  fullLoad: boolean,
  boostTargetPa: number | null,
): StopFinding | null {
  const newest = new Map(readings.map(({ quantity, value }) => [quantity, value]));
  for (const { id, label, limit, unit, above, quantity } of stops) {
    if (limit === null || (AT_FULL_LOAD.includes(id) && !fullLoad)) continue;
    const value = id === 'boost' ? overBoostKPa(newest, boostTargetPa) : newest.get(quantity ?? QUANTITY_OF[id]!);
    if (value === undefined || value === null) continue;
    const read = id === 'knock' ? Math.abs(value) : quantity && unit in UNITS ? fromSi(value, unit as UnitName) : value;
    const withUnit = (figure: number) => (unit === '–' ? `${figure}` : `${figure} ${unit}`);
    if (above ? read > limit : read < limit)
      return {
        criterion: id,
        text: `${label} ${withUnit(Number(read.toFixed(2)))} is ${above ? 'over' : 'under'} the limit of ${withUnit(limit)}`,
      };
  }
  return null;
}

function overBoostKPa(newest: ReadonlyMap<Quantity, number>, targetPa: number | null): number | null {
  const pressure = newest.get('manifoldPressure');
  return pressure === undefined || targetPa === null ? null : (pressure - targetPa) / 1000;
}
