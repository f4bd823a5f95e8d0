import { mean } from '../numeric/means.js';
import { said } from '../said.js';
import type { Check } from './check.js';
import { byChance, standingOf } from './levels.js';

/** So far below the later pulls, and less likely by the day's own scatter; the first so many pulls of a setup, with so many later ones. Assumptions. */
const LEARNING_RULES = { share: 0.01, probability: 0.997, first: 2, later: 2 };

export const learning: Check = {
  flag: 'learning',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power'],
  ofSetup: null,
  needs: ['power', 'torque'],
  inCell: null,
  thresholds: [
    {
      name: 'still learning',
      value: `${100 * LEARNING_RULES.share} %`,
      what: `The first ${LEARNING_RULES.first} pulls of a setup, rising, under the mean of at least ${LEARNING_RULES.later} later ones, beyond what the day's pulls scatter (Student's t, ${100 * LEARNING_RULES.probability} %). The judgement weighs it already.`,
    },
  ],
  find(input) {
    const standing = standingOf(input);
    if (!standing) return null;
    const place = standing.setup.findIndex(({ id }) => id === input.id);
    const later = standing.setup.slice(LEARNING_RULES.first).map(({ level }) => level);
    if (place >= LEARNING_RULES.first || later.length < LEARNING_RULES.later) return null;
    const settled = mean(later);
    const under = settled - standing.own.level;
    const [first, second] = [standing.setup[0]!, standing.setup[1]!];
    const chance = byChance(standing, [first.id, second.id], later.length, LEARNING_RULES.probability);
    // The first is the farthest below, and each comes closer: else it is an outlier, not learning.
    const isRising = chance !== null && first.level < second.level && second.level < settled + chance / 2;
    if (!isRising || under <= Math.max(LEARNING_RULES.share, chance)) return null;
    const pulls = standing.setup.slice(0, 4).map(({ id, level }) => ({ pull: id, offPct: 100 * Math.expm1(level - settled) }));
    return { said: said('flag:learning', { underPct: -100 * Math.expm1(-under), pulls }) };
  },
};
