import type { LiveReading, PassedLimit, PlanStop, Quantity } from '@gezeit/contract';
import { fromSi, UNITS, type UnitName } from '../units/units.js';

/** A limit that was passed. Its sentence is written in words/rule-words. */
export interface StopFinding {
  criterion: string;
  passed: PassedLimit;
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
  const newest = withManifold(readings);
  for (const { id, label, limit, unit, above, quantity } of stops) {
    if (limit === null || (AT_FULL_LOAD.includes(id) && !fullLoad)) continue;
    const value = id === 'boost' ? overBoostKPa(newest, boostTargetPa) : newest.get(quantity ?? QUANTITY_OF[id]!);
    if (value === undefined || value === null) continue;
    const read = id === 'knock' ? Math.abs(value) : quantity && unit in UNITS ? fromSi(value, unit as UnitName) : value;
    if (above ? read > limit : read < limit)
      return {
        criterion: id,
        passed: { label, value: Number(read.toFixed(2)), limit, unit, above },
      };
  }
  return null;
}

/** Ambient pressure where no device says it, Pa: at sea level a gauge reading stands for the highest absolute one. */
const SEA_LEVEL_PA = 101_325;

/** The newest readings; where only a gauge pressure is sent, the absolute one is made from it. */
function withManifold(readings: readonly LiveReading[]): ReadonlyMap<Quantity, number> {
  const newest = new Map(readings.map(({ quantity, value }) => [quantity, value]));
  const boost = newest.get('boostPressure');
  if (boost !== undefined && !newest.has('manifoldPressure'))
    newest.set('manifoldPressure', boost + (newest.get('ambientPressure') ?? SEA_LEVEL_PA));
  return newest;
}

function overBoostKPa(newest: ReadonlyMap<Quantity, number>, targetPa: number | null): number | null {
  const pressure = newest.get('manifoldPressure');
  return pressure === undefined || targetPa === null ? null : (pressure - targetPa) / 1000;
}

/** Whether a stream can watch a limit; otherwise somebody watches it by eye. */
export function isStreamed({ id, quantity }: PlanStop): boolean {
  return quantity != null || id === 'boost' || id in QUANTITY_OF;
}
