import { smoothed } from '../pull/band.js';
import type { PullCurve } from '../pull/curve.js';
import { median } from '../numeric/means.js';
import { said } from '../said.js';
import type { Check } from './check.js';
import { robustScatter } from './shape.js';

/** How many times rougher or smoother than the setup's other pulls; so many others, and points of the grid. Assumptions. */
const SMOOTHING_RULES = { factor: 2, others: 2, points: 60 };

const roughnesses = new WeakMap<PullCurve, number>();

/** What power scatters about its own course over 200 rpm, as a share; NaN where too little is logged. */
function roughnessOf(curve: PullCurve): number {
  const known = roughnesses.get(curve);
  if (known !== undefined) return known;
  const power = curve.channels.get('power')?.filter((value) => Number.isFinite(value) && value > 0);
  let roughness = Number.NaN;
  if (power && power.length >= SMOOTHING_RULES.points) {
    const course = smoothed(power);
    const inside = power.map((value, i) => value / course[i]! - 1).subarray(4, power.length - 4);
    roughness = robustScatter(inside);
  }
  roughnesses.set(curve, roughness);
  return roughness;
}

export const smoothingDiffers: Check = {
  flag: 'smoothing-differs',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power'],
  ofSetup: null,
  needs: ['power', 'torque'],
  inCell: null,
  thresholds: [
    {
      name: 'smoothing differs',
      value: `${SMOOTHING_RULES.factor} times`,
      what: 'Roughness of power about its own course against the setup’s other pulls: a file exported with another smoothing has other peaks.',
    },
  ],
  find({ curve, peers }) {
    const own = curve ? roughnessOf(curve) : Number.NaN;
    const others = peers.sameSetup
      .filter((peer) => peer !== curve)
      .map(roughnessOf)
      .filter(Number.isFinite);
    if (!curve || !Number.isFinite(own) || others.length < SMOOTHING_RULES.others) return null;
    const usual = median(others);
    const times = own / usual;
    if (!(usual > 0) || (times <= SMOOTHING_RULES.factor && times >= 1 / SMOOTHING_RULES.factor)) return null;
    return { said: said('flag:smoothing-differs', { times }) };
  },
};
