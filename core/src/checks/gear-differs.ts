import { median } from '../numeric/means.js';
import type { PullCurve } from '../pull/curve.js';
import { loggedGear, OTHER_GEAR_SHARE, speedRatio } from '../pull/speed-ratio.js';
import { said } from '../said.js';
import type { Check } from './check.js';

/** So many other pulls of the setup must tell theirs; assumption. */
const LEAST_OTHERS = 2;

export const gearDiffers: Check = {
  flag: 'gear-differs',
  leavesOut: false,
  suggestsLeavingOut: true,
  touches: ['power', 'temperature'],
  ofSetup: null,
  needs: [],
  inCell: null,
  thresholds: [
    {
      name: 'gear differs',
      value: `${100 * OTHER_GEAR_SHARE} %`,
      what: 'Roller or road speed over engine speed against the setup’s other pulls, or another number in the gear’s own channel: another load, ramp and loss.',
    },
  ],
  find({ curve, peers }) {
    if (!curve) return null;
    const others = peers.sameSetup.filter((peer) => peer !== curve);
    const gears = others.flatMap((peer) => loggedGear(peer) ?? []);
    const gear = loggedGear(curve);
    const usualGear = gears.length >= LEAST_OTHERS ? median(gears) : null;
    if (gear !== null && usualGear !== null && Number.isInteger(usualGear))
      return gear === usualGear ? null : { said: said('flag:gear-differs', { gear, usualGear, differencePct: null }) };
    const difference = ratioDifference(curve, others);
    if (difference === null || Math.abs(difference) <= OTHER_GEAR_SHARE) return null;
    return { said: said('flag:gear-differs', { gear: null, usualGear: null, differencePct: 100 * difference }) };
  },
};

/** By what share a pull's ratio of the speeds differs from that of others; null where too few tell it. */
function ratioDifference(curve: PullCurve, others: readonly PullCurve[]): number | null {
  const own = speedRatio(curve);
  const ratios = others.flatMap((peer) => {
    const ratio = speedRatio(peer);
    return own && ratio && ratio.of === own.of && Number.isFinite(ratio.overall) ? ratio.overall : [];
  });
  return own && Number.isFinite(own.overall) && ratios.length >= LEAST_OTHERS ? own.overall / median(ratios) - 1 : null;
}
