import type { Bundle } from '@gezeit/contract';
import type { Assumptions } from '../judge/assumptions.js';
import type { PullCurve } from '../pull/curve.js';
import { said, type AnySaid } from '../said.js';
import { sensorAt, together } from './sensor-accuracy.js';

/** Quantities of which the accuracy of a sensor is known, or assumed where everybody can see it. */
const COMPARED = /^(pressureDrop(\/.*)?|airMassFlow|boostPressure|manifoldPressure|ambientPressure|.*[pP]ressure|.*[tT]emperature)$/;

/** What two devices say of the same quantity in one pull, where they differ by more than their sensors together may be off. */
export function devicesApart(bundle: Bundle, assumptions: Assumptions, { readTwice }: PullCurve): AnySaid[] {
  return readTwice.flatMap(({ key, first, second, firstMean, secondMean }) => {
    if (!COMPARED.test(key)) return [];
    const allowed = together(
      sensorAt(bundle, assumptions, first, key, firstMean).accuracy,
      sensorAt(bundle, assumptions, second, key, secondMean).accuracy,
    );
    if (Math.abs(firstMean - secondMean) <= allowed) return [];
    return [said('devices-apart', { key, first: first.device, firstMean, second: second.device, secondMean })];
  });
}
