import type { Quantity } from '@gezeit/contract';
import type { PullCurve } from '../pull/curve.js';
import { median } from '../numeric/means.js';
import { powerFromTorqueW } from '../units/power.js';
import { said } from '../said.js';
import type { Check, CheckInput } from './check.js';
import { sensorAt, together } from '../judge/sensor-accuracy.js';

/** Power against torque times engine speed where both are logged; assumption. */
const POWER_APART = 0.03;

/** Quantities of which the accuracy of a sensor is known, or assumed where everybody can see it. */
const COMPARED = /^(pressureDrop(\/.*)?|airMassFlow|boostPressure|manifoldPressure|ambientPressure|.*[pP]ressure|.*[tT]emperature)$/;

/** Two readings of the same thing that cannot both be right, as means over the sweep in the unit kept inside. */
interface Contradiction {
  key: string;
  first: string;
  firstMean: number;
  second: string;
  secondMean: number;
}

export const devicesContradict: Check = {
  flag: 'devices-contradict',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power', 'temperature', 'restriction'],
  ofSetup: null,
  needs: [],
  inCell: null,
  thresholds: [
    {
      name: 'devices contradict one another',
      value: 'beyond both sensors’ accuracy',
      what: `The same quantity read twice; boost and barometer against manifold pressure; power against torque times engine speed (${100 * POWER_APART} %).`,
    },
  ],
  find(input) {
    const apart = [...readTwice(input), ...boostAgainstManifold(input), ...powerAgainstTorque(input.curve)];
    return apart.length === 0 ? null : { said: said('flag:devices-contradict', { apart }) };
  },
};

/** What two devices say of the same quantity, where they differ by more than their sensors together may be off. */
function readTwice({ bundle, assumptions, curve }: CheckInput): Contradiction[] {
  return (curve?.readTwice ?? []).flatMap(({ key, first, second, firstMean, secondMean }) => {
    if (!COMPARED.test(key)) return [];
    const allowed = together(
      sensorAt(bundle, assumptions, first, key, firstMean).accuracy,
      sensorAt(bundle, assumptions, second, key, secondMean).accuracy,
    );
    if (Math.abs(firstMean - secondMean) <= allowed) return [];
    return [{ key, first: first.device, firstMean, second: second.device, secondMean }];
  });
}

function boostAgainstManifold({ curve, assumptions }: CheckInput): Contradiction[] {
  const [boost, manifold] = (['boostPressure', 'manifoldPressure'] as const).map((key: Quantity) => curve?.channels.get(key));
  const [boostSource, manifoldSource] = ['boostPressure', 'manifoldPressure'].map((key) => curve?.sources.get(key));
  // A manifold pressure that was made of the boost agrees with it by itself: it has no sensor.
  if (!curve?.air || !boost || !manifold || !boostSource || !manifoldSource) return [];
  const firstMean = median(boost.filter(Number.isFinite)) + curve.air.pressurePa;
  const secondMean = median(manifold.filter(Number.isFinite));
  const { pressurePa } = assumptions.sensors;
  if (Math.abs(firstMean - secondMean) <= together(pressurePa, pressurePa, pressurePa)) return [];
  return [
    { key: 'manifoldPressure', first: `${boostSource.device}, boost and barometer`, firstMean, second: manifoldSource.device, secondMean },
  ];
}

function powerAgainstTorque(curve: PullCurve | null): Contradiction[] {
  const [power, torque] = ['power', 'torque'].map((key) => curve?.channels.get(key));
  const [powerSource, torqueSource] = ['power', 'torque'].map((key) => curve?.sources.get(key));
  if (!curve || !power || !torque || !powerSource || !torqueSource) return [];
  const made = torque.map((value, i) => powerFromTorqueW(value, curve.gridRpm[i]!));
  const both = [...power.keys()].filter((i) => power[i]! > 0 && made[i]! > 0);
  if (both.length === 0) return [];
  const ratio = median(both.map((i) => power[i]! / made[i]!));
  if (Math.abs(ratio - 1) <= POWER_APART) return [];
  const secondMean = median(both.map((i) => made[i]!));
  return [
    {
      key: 'power',
      first: powerSource.device,
      firstMean: ratio * secondMean,
      second: `${torqueSource.device}, torque times engine speed`,
      secondMean,
    },
  ];
}
