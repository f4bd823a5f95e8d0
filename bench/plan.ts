// Times the plan: a move in a plan of 40 pulls, and a suggestion for 3 setups and 24 pulls, beside a fixed calculation: npm run bench:plan
import { bundleSchema } from '@gezeit/contract';
import { assumptionsFor, forecastTide, movePulls, planReport, pullsFromLetters, scheduled, suggestOrder } from '@gezeit/core';
import { fixedCalculationMs, medianMs } from './fixed-calculation.js';

const bundle = bundleSchema.parse({
  format: 'gezeit-bundle',
  version: 1,
  programme: { title: 't', bandRpm: [4000, 6000], smallestGainPct: 1, correction: 'NONE' },
  vehicle: { name: 'v', aspiration: 'turbo' },
  cell: { name: 'c' },
  setups: [
    { id: 'A', name: 'a', reference: true },
    { id: 'B', name: 'b' },
    { id: 'C', name: 'c' },
  ],
  pulls: [],
  plan: scheduled({ pulls: pullsFromLetters('aAAbBBcCC'.repeat(4) + 'aAAA', ['A', 'B', 'C']), restMin: 5, swapMin: 20 }),
});
const fixedMs = fixedCalculationMs();
let place = 0;
const moveMs = medianMs(() => {
  place = (place + 7) % 38;
  const plan = movePulls(bundle.plan!, place, place, (place + 11) % 38);
  return [planReport({ ...bundle, plan }), forecastTide(plan)];
});
const assumptions = assumptionsFor(bundle);
const suggestMs = medianMs(
  () =>
    suggestOrder({
      setups: ['A', 'B', 'C'],
      mostPulls: 24,
      mostHours: 8,
      mostSwaps: 12,
      restMin: 5,
      swapMin: () => 20,
      conditioning: 1,
      assumptions,
      noise: assumptions.noise,
    }),
  3,
);
console.log(`fixed calculation: ${fixedMs.toFixed(2)} ms`);
console.log(`a move in a plan of ${bundle.plan!.pulls.length} pulls: ${moveMs.toFixed(2)} ms (under 16 wanted)`);
console.log(`a suggestion for 3 setups and 24 pulls: ${(suggestMs / 1000).toFixed(2)} s (under 5 wanted)`);
process.exitCode = moveMs < 16 && suggestMs < 5000 ? 0 : 1;
