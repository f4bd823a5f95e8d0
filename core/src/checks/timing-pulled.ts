import { said } from '../said.js';
import { onBand, type Band } from '../pull/band.js';
import type { PullCurve } from '../pull/curve.js';
import { shareOfBand, type Check } from './check.js';
import { median } from '../numeric/means.js';

/** Ignition below the setup's median, or knock retard, degrees, over this share of the band; assumptions. */
const TIMING_RULES = { degrees: 3, share: 0.05, leastPulls: 3 };

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
    const usual = usualAdvance(peers.sameSetup, band);
    const share = usual
      ? Math.max(
          knock,
          shareOfBand(curve, 'ignitionAdvance', band, (value, i) => value < usual[i]! - TIMING_RULES.degrees),
        )
      : knock;
    return share < TIMING_RULES.share
      ? null
      : { said: said('flag:timing-pulled', { degrees: TIMING_RULES.degrees, sharePct: 100 * share }) };
  },
};

/** The median of a setup's pulls, point by point of the band; made once for all of them. */
const kept = new WeakMap<readonly PullCurve[], { band: Band; usual: Float64Array | null }>();

function usualAdvance(sameSetup: readonly PullCurve[], band: Band): Float64Array | null {
  const known = kept.get(sameSetup);
  if (known && known.band[0] === band[0] && known.band[1] === band[1]) return known.usual;
  const rivals = sameSetup.flatMap((peer) => {
    const advance = peer.channels.get('ignitionAdvance');
    return advance ? [onBand(peer, advance, band)] : [];
  });
  const usual = rivals.length < TIMING_RULES.leastPulls ? null : rivals[0]!.map((_, i) => median(rivals.map((values) => values[i]!)));
  kept.set(sameSetup, { band, usual });
  return usual;
}
