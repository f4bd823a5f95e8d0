import { describe, expect, it } from 'vitest';
import { rehearsedDays, rehearsedPlan as bundle } from '../../bench/rehearsed-days.js';
import { prepareRehearsal } from '../src/rehearse/index.js';

describe('a rehearsal', () => {
  it('is the same from the same seed, and another from another', () => {
    const rehearsal = prepareRehearsal(bundle('aAbBBaA'));
    expect(rehearsal.rehearse(4, 2)).toEqual(rehearsal.rehearse(4, 2));
  });

  it.each(['na', 'turbo'] as const)(
    'of a large true gain says gain, of none hardly ever, and holds the truth (%s; a hundred days by `npm run bench:rehearsals`)',
    (aspiration) => {
      const { large, none } = rehearsedDays(aspiration, 4);
      expect(large.verdicts.gain).toBeGreaterThanOrEqual(3);
      expect(none.verdicts.gain).toBeLessThanOrEqual(1);
      expect(large.held + none.held).toBeGreaterThanOrEqual(7);
      expect(large.days).toBe(4);
      expect(Object.values(none.verdicts).reduce((sum, count) => sum + count, 0)).toBe(4);
    },
  );

  it('is refused where the plan holds no comparison', () => {
    expect(() => prepareRehearsal(bundle('aAA'))).toThrow(/holds no comparison/);
  });
});
