import { mean } from '../numeric/means.js';
import { said } from '../said.js';
import type { Check } from './check.js';
import { byChance, standingOf } from './levels.js';

/** So far from the setup's other pulls, and less likely by the day's own scatter; so many others must be there. Assumptions. */
const OUTLIER_RULES = { share: 0.02, probability: 0.9995, others: 2 };

export const outlier: Check = {
  flag: 'outlier',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power'],
  ofSetup: null,
  needs: ['power', 'torque'],
  inCell: null,
  thresholds: [
    {
      name: 'outlier',
      value: `${100 * OUTLIER_RULES.share} %`,
      what: `Mean power from the same start against the mean of the setup's other pulls, and beyond what the day's other pulls scatter (Student's t, ${100 * OUTLIER_RULES.probability} %). The judgement weighs it down already.`,
    },
  ],
  find(input) {
    const standing = standingOf(input);
    if (!standing) return null;
    const others = standing.setup.filter(({ id }) => id !== input.id).map(({ level }) => level);
    if (others.length < OUTLIER_RULES.others) return null;
    const apart = standing.own.level - mean(others);
    const chance = byChance(standing, [input.id], others.length, OUTLIER_RULES.probability);
    if (chance === null || Math.abs(apart) <= Math.max(OUTLIER_RULES.share, chance)) return null;
    return { said: said('flag:outlier', { offPct: 100 * Math.expm1(apart), others: others.length }) };
  },
};
