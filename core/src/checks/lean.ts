import { said } from '../said.js';
import { placesWhere, shareOfBand, type Check } from './check.js';

/** Lambda above this over this share of the band is lean at full load on a spark-ignition engine; assumptions. */
const LEAN_RULES = { lambda: 1, share: 0.05 };

export const lean: Check = {
  flag: 'lean',
  leavesOut: true,
  suggestsLeavingOut: false,
  touches: ['power'],
  ofSetup: { affects: ['power'], withholds: [] },
  needs: ['lambda'],
  inCell: { id: 'mixture', label: 'Mixture' },
  thresholds: [
    { name: 'lean', value: `lambda ${LEAN_RULES.lambda.toFixed(2)}`, what: `Above it over ${100 * LEAN_RULES.share} % of the band.` },
  ],
  find({ bundle, curve, band }) {
    if (!curve || bundle.vehicle.ignition === 'compression') return null;
    const share = shareOfBand(curve, 'lambda', band, (value) => value > LEAN_RULES.lambda);
    if (share < LEAN_RULES.share) return null;
    return {
      said: said('flag:lean', { lambda: LEAN_RULES.lambda, sharePct: 100 * share }),
      where: placesWhere(curve, 'lambda', band, (value) => value > LEAN_RULES.lambda),
    };
  },
};
