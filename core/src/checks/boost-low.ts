import type { Bundle } from '@gezeit/contract';
import { said } from '../said.js';
import { bandMean } from '../pull/band.js';
import { placeAt, type Check } from './check.js';
import { median } from '../numeric/means.js';

/** Mean manifold pressure so far below the median of the setup's own pulls is low; assumption. */
const BOOST_LOW_SHARE = 0.04;

/** Whether something holds the manifold pressure. */
export function isHeld({ vehicle }: Pick<Bundle, 'vehicle'>): boolean {
  return vehicle.boostControl === 'absolute' || vehicle.boostControl === 'gauge';
}

export const boostLow: Check = {
  flag: 'boost-low',
  leavesOut: true,
  suggestsLeavingOut: false,
  touches: ['power'],
  ofSetup: { affects: ['power'], withholds: [] },
  needs: ['manifoldPressure', 'boostPressure'],
  inCell: { id: 'boost', label: 'Boost' },
  thresholds: [{ name: 'boost low', value: `${100 * BOOST_LOW_SHARE} %`, what: "Under the median of the setup's own pulls." }],
  find({ bundle, curve, band, peers }) {
    if (!curve || !isHeld(bundle)) return null;
    const own = bandMean(curve, 'manifoldPressure', band);
    const others = peers.sameSetup.map((peer) => bandMean(peer, 'manifoldPressure', band)).filter((value) => value !== null);
    if (own === null || others.length < 3) return null;
    const usual = median(others);
    if (own >= usual * (1 - BOOST_LOW_SHARE)) return null;
    return { said: said('flag:boost-low', { underPct: 100 * (1 - own / usual) }), where: placeAt(curve, 'manifoldPressure', ...band) };
  },
};
