import type { PullCurve } from '../pull/curve.js';
import { interpolate } from '../numeric/interpolate.js';
import { median } from '../numeric/means.js';
import { said } from '../said.js';
import type { Band } from '../pull/band.js';
import type { Check } from './check.js';

/** The time through the band against the setup's other pulls; so many others must be there. Assumptions. */
const RAMP_RULES = { share: 0.1, others: 2 };

/** Time through a band, s; NaN where it is not passed, or the curve has no time. */
const timeThrough = ({ gridRpm, gridTimeS }: PullCurve, [low, high]: Band): number =>
  interpolate(gridRpm, gridTimeS, high) - interpolate(gridRpm, gridTimeS, low);

export const rampDiffers: Check = {
  flag: 'ramp-differs',
  leavesOut: false,
  suggestsLeavingOut: true,
  touches: ['power', 'temperature'],
  ofSetup: null,
  needs: [],
  inCell: null,
  thresholds: [
    {
      name: 'ramp differs',
      value: `${100 * RAMP_RULES.share} %`,
      what: 'Time through the band against the setup’s other pulls: another ramp loads, heats and weighs inertia otherwise.',
    },
  ],
  find({ curve, band, peers }) {
    if (!curve) return null;
    const own = timeThrough(curve, band);
    const others = peers.sameSetup
      .filter((peer) => peer !== curve)
      .map((peer) => timeThrough(peer, band))
      .filter(Number.isFinite);
    if (!Number.isFinite(own) || others.length < RAMP_RULES.others) return null;
    const usual = median(others);
    if (Math.abs(own / usual - 1) <= RAMP_RULES.share) return null;
    return { said: said('flag:ramp-differs', { seconds: own, usualS: usual }) };
  },
};
