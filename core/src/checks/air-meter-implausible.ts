import { said } from '../said.js';
import { bandMean } from '../pull/band.js';
import { AIR_PER_POWER } from '../demand/air-demand.js';
import type { Check } from './check.js';

/** How far off air mass flow over power at the crank is implausible: more than on the bench, for the loss to the wheels is no fixed share. Assumption. */
const IMPLAUSIBLE_SHARE = 0.25;

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
      value: `${Number((1e6 * AIR_PER_POWER.kgSPerW).toFixed(3))} g/s per kW ± ${100 * IMPLAUSIBLE_SHARE} %`,
      what: 'At the crank; of wheel power by the factor among the assumptions.',
    },
  ],
  find({ bundle, assumptions, curve, band }) {
    if (!curve || bundle.vehicle.ignition === 'compression') return null;
    const air = bandMean(curve, 'airMassFlow', band);
    const power = bandMean(curve, 'power', band);
    if (air === null || power === null) return null;
    const cell = bundle.cell ?? bundle.cells?.[0];
    const crank = cell?.powerAt === 'crank' ? power : power * assumptions.wheelToCrank.mean;
    const ratio = air / (crank * AIR_PER_POWER.kgSPerW);
    return Math.abs(ratio - 1) <= IMPLAUSIBLE_SHARE ? null : { said: said('flag:air-meter-implausible', { offPct: 100 * (ratio - 1) }) };
  },
};
