import { said } from '../said.js';
import { onBand } from '../pull/band.js';
import { shareOfBand, type Check } from './check.js';
import { median } from '../numeric/means.js';

/** Ignition below the setup's median, or knock retard, degrees, over this share of the band; assumptions. */
const TIMING_RULES = { degrees: 3, share: 0.05 };

export const timingPulled: Check = {
  flag: 'timing-pulled',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power'],
  ofSetup: { affects: ['power'], withholds: [] },
  needs: ['knockRetard', 'ignitionAdvance'],
  inCell: { id: 'spark', label: 'Spark pulled' },
  thresholds: [{ name: 'spark pulled', value: `${TIMING_RULES.degrees}°`, what: `Over ${100 * TIMING_RULES.share} % of the band.` }],
  find({ curve, band, peers }) {
    if (!curve) return null;
    const knock = shareOfBand(curve, 'knockRetard', band, (value) => Math.abs(value) > TIMING_RULES.degrees);
    const rivals = peers.sameSetup.flatMap((peer) => {
      const advance = peer.channels.get('ignitionAdvance');
      return advance ? [onBand(peer, advance, band)] : [];
    });
    const below = (value: number, i: number) => value < median(rivals.map((values) => values[i]!)) - TIMING_RULES.degrees;
    const share = rivals.length < 3 ? knock : Math.max(knock, shareOfBand(curve, 'ignitionAdvance', band, below));
    return share < TIMING_RULES.share
      ? null
      : { said: said('flag:timing-pulled', { degrees: TIMING_RULES.degrees, sharePct: 100 * share }) };
  },
};
