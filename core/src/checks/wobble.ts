import { smoothed } from '../pull/band.js';
import { said } from '../said.js';
import { placeAt, type Check } from './check.js';
import { againstOthers, atPlaces, placesOnGrid, robustScatter, withoutCourse } from './shape.js';
import { median } from '../numeric/means.js';

/** So deep against the setup's other pulls, so many times what is left elsewhere; no narrower and no wider than so much engine speed. Assumptions. */
const WOBBLE_RULES = { share: 0.03, scatters: 5, leastRpm: 75, mostRpm: 1000, others: 2, smoothedRpm: 100, powerShare: 0.4 };
/** Points of the grid. */
const LEAST_POINTS = 40;

export const wobble: Check = {
  flag: 'wobble',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power'],
  ofSetup: null,
  needs: ['power', 'torque'],
  inCell: null,
  thresholds: [
    {
      name: 'wobble or dip',
      value: `${100 * WOBBLE_RULES.share} %`,
      what: `Of power against the setup's other pulls, over ${WOBBLE_RULES.leastRpm} to ${WOBBLE_RULES.mostRpm} rpm, its straight course taken out. The judgement weighs it down already.`,
    },
  ],
  find({ curve, peers }) {
    const shape = curve && againstOthers(curve, 'power', peers.sameSetup, WOBBLE_RULES.others);
    if (!curve || !shape) return null;
    const power = curve.channels.get('power')!;
    const most = power.reduce((a, b) => (b > a ? b : a), 0);
    // Where there is hardly any power yet, a little of it is a large share.
    const { gridRpm, ratio } = shape;
    const inside = placesOnGrid(ratio.length, (i) => Number.isFinite(ratio[i]!) && power[i]! >= WOBBLE_RULES.powerShare * most);
    if (inside.length < LEAST_POINTS) return null;
    const x = atPlaces(inside, gridRpm);
    const left = withoutCourse(x, smoothed(atPlaces(inside, ratio), WOBBLE_RULES.smoothedRpm));
    const middle = median(left);
    const apart = left.map((value) => value - middle);
    const least = Math.max(WOBBLE_RULES.share, WOBBLE_RULES.scatters * robustScatter(apart));
    let worst: { fromRpm: number; toRpm: number; atRpm: number; apart: number } | null = null;
    for (let i = 0; i < apart.length; i += 1) {
      if (!(Math.abs(apart[i]!) > least)) continue;
      const sign = Math.sign(apart[i]!);
      // As wide as it is at half its threshold.
      let first = i;
      while (first > 0 && sign * apart[first - 1]! > least / 2) first -= 1;
      let last = i;
      while (last + 1 < apart.length && sign * apart[last + 1]! > least / 2) last += 1;
      const [fromRpm, toRpm] = [x[first]!, x[last]!];
      const peak = [...apart.keys()].slice(first, last + 1).reduce((most, k) => (sign * apart[k]! > sign * apart[most]! ? k : most), first);
      const isInside = first > 0 && last + 1 < apart.length;
      const width = toRpm - fromRpm;
      if (
        isInside &&
        width >= WOBBLE_RULES.leastRpm &&
        width <= WOBBLE_RULES.mostRpm &&
        Math.abs(apart[peak]!) > Math.abs(worst?.apart ?? 0)
      )
        worst = { fromRpm, toRpm, atRpm: x[peak]!, apart: apart[peak]! };
      i = last;
    }
    if (!worst) return null;
    const { fromRpm, toRpm, atRpm } = worst;
    return {
      said: said('flag:wobble', { offPct: 100 * worst.apart, atRpm, widthRpm: toRpm - fromRpm }),
      where: placeAt(curve, 'power', fromRpm, toRpm),
    };
  },
};
