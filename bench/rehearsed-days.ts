import { bundleSchema, type Bundle } from '@gezeit/contract';
import { planReport, pullsFromLetters, scheduled } from '@gezeit/core';
import { addDay, emptyCount, prepareRehearsal } from '@gezeit/core/rehearse';

/** A programme with nothing but a plan of these letters. */
export const rehearsedPlan = (letters: string, aspiration: 'na' | 'turbo' = 'turbo'): Bundle =>
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

/** What is said on days of a true gain of twice what the plan resolves, and on days of none. */
export function rehearsedDays(aspiration: 'na' | 'turbo', days: number) {
  const made = rehearsedPlan('aAbBBaAAbBBaA', aspiration);
  const rehearsal = prepareRehearsal(made);
  const gainPct = 2 * planReport(made).comparisons[0]!.smallestResolvablePct;
  const [large, none] = [emptyCount(), emptyCount()];
  for (let seed = 1; seed <= days; seed += 1) {
    addDay(large, rehearsal.rehearse(seed, gainPct));
    addDay(none, rehearsal.rehearse(seed, 0));
  }
  return { large, none };
}
