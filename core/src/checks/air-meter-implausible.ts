import { said } from '../said.js';
import { bandMean } from '../pull/band.js';
import type { Check } from './check.js';

/** Air mass flow over power, g/s per kW at the crank, and how far off is implausible; wheel power times the last is the crank's. Assumptions. */
const AIR_METER_RULES = { airPerPower: 1.01, off: 0.25, wheelToCrank: 1.15 };

export const airMeterImplausible: Check = {
  flag: 'air-meter-implausible',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power', 'restriction'],
  ofSetup: { affects: ['power'], withholds: [] },
  needs: ['airMassFlow'],
  inCell: { id: 'air', label: 'Air mass' },
  thresholds: [
    {
      name: 'air per power',
      value: `${AIR_METER_RULES.airPerPower} g/s per kW ± ${100 * AIR_METER_RULES.off} %`,
      what: `At the crank; wheel power × ${AIR_METER_RULES.wheelToCrank}.`,
    },
  ],
  find({ bundle, curve, band }) {
    if (!curve || bundle.vehicle.ignition === 'compression') return null;
    const air = bandMean(curve, 'airMassFlow', band);
    const power = bandMean(curve, 'power', band);
    if (air === null || power === null) return null;
    const cell = bundle.cell ?? bundle.cells?.[0];
    const crank = cell?.powerAt === 'crank' ? power : power * AIR_METER_RULES.wheelToCrank;
    const ratio = air / ((crank / 1000) * (AIR_METER_RULES.airPerPower / 1000));
    return Math.abs(ratio - 1) <= AIR_METER_RULES.off ? null : { said: said('flag:air-meter-implausible', { offPct: 100 * (ratio - 1) }) };
  },
};
