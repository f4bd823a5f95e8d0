import { describe, expect, it } from 'vitest';
import { bundleSchema, type Bundle } from '@gezeit/contract';
import { planReport, pullsFromLetters, scheduled } from '../src/index.js';
import { addDay, emptyCount, prepareRehearsal } from '../src/rehearse/index.js';

const bundle = (letters: string, aspiration: 'na' | 'turbo' = 'turbo'): Bundle =>
  bundleSchema.parse({
    format: 'gezeit-bundle',
    version: 1,
    programme: { title: 't', bandRpm: [4000, 6000], smallestGainPct: 1, correction: aspiration === 'na' ? 'SAE_J1349' : 'NONE' },
    vehicle: { name: 'v', aspiration, boostControl: aspiration === 'na' ? 'none' : 'absolute', displacementL: 1.8, maxRpm: 6800 },
    cell: { name: 'c', repeatabilityPct: 0.4 },
    setups: [
      { id: 'A', name: 'Stock', reference: true, parts: ['box'] },
      { id: 'B', name: 'New', parts: ['new box'] },
    ],
    pulls: [],
    plan: scheduled({ pulls: pullsFromLetters(letters, ['A', 'B']), restMin: 5, swapMin: 20 }),
  });

describe('a rehearsal', () => {
  it('is the same from the same seed, and another from another', () => {
    const rehearsal = prepareRehearsal(bundle('aAbBBaA'));
    expect(rehearsal.rehearse(4, 2)).toEqual(rehearsal.rehearse(4, 2));
  });

  it.each(['na', 'turbo'] as const)(
    'of a large true gain says gain on most days, of none on hardly any, and holds the truth (%s)',
    (aspiration) => {
      const made = bundle('aAbBBaAAbBBaA', aspiration);
      const rehearsal = prepareRehearsal(made);
      const large = 2 * planReport(made).comparisons[0]!.smallestResolvablePct;
      const [with_, without] = [emptyCount(), emptyCount()];
      for (let seed = 1; seed <= 14; seed++) {
        addDay(with_, rehearsal.rehearse(seed, large));
        addDay(without, rehearsal.rehearse(seed, 0));
      }
      expect(with_.verdicts.gain).toBeGreaterThanOrEqual(12);
      expect(without.verdicts.gain).toBeLessThanOrEqual(1);
      expect(with_.held + without.held).toBeGreaterThanOrEqual(25);
      expect(with_.days).toBe(14);
      expect(Object.values(without.verdicts).reduce((sum, count) => sum + count, 0)).toBe(14);
    },
  );

  it('is refused where the plan holds no comparison', () => {
    expect(() => prepareRehearsal(bundle('aAA'))).toThrow(/holds no comparison/);
  });
});
