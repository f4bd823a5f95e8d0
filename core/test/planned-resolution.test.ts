import { readFileSync } from 'node:fs';
import type { Bundle } from '@gezeit/contract';
import { expect, it } from 'vitest';
import { plannedResolution } from '../src/index.js';

const check = (
  JSON.parse(readFileSync(new URL('./data/judgement-vectors.json', import.meta.url), 'utf8')) as {
    plans: { halfWidthPct: number; smallestResolvablePct: number; smallestNoDifferencePct: number }[];
  }
).plans.at(-1)!;

const bundle = (plan: Bundle['plan']): Bundle => ({
  format: 'gezeit-bundle',
  version: 1,
  programme: { title: 't', question: '', metric: 'meanPower', bandRpm: [4000, 6000], smallestGainPct: 1, correction: 'NONE' },
  vehicle: { name: 'v', aspiration: 'turbo' },
  cell: { name: 'c', powerAt: 'wheel', repeatabilityPct: 0.6 },
  setups: [
    { id: 'A', name: 'a', reference: true, parts: [], state: {} },
    { id: 'B', name: 'b', parts: [], state: {} },
  ],
  pulls: [],
  plan,
});
const at = (setup: string, kind: 'measured' | 'conditioning', atMin: number) => ({ setup, kind, atMin });

it('the example plan resolves what the check values say', () => {
  const pulls = [
    at('A', 'conditioning', 0),
    at('A', 'measured', 5),
    at('B', 'conditioning', 37),
    at('B', 'measured', 42),
    at('B', 'measured', 47),
    at('A', 'conditioning', 79),
    at('A', 'measured', 84),
  ];
  const [{ candidate, resolution } = { candidate: '', resolution: check }] = plannedResolution(bundle({ pulls }));
  expect(candidate).toBe('B');
  expect(resolution.halfWidthPct).toBeCloseTo(check.halfWidthPct, 5);
  expect(resolution.smallestResolvablePct).toBeCloseTo(check.smallestResolvablePct, 5);
  expect(resolution.smallestNoDifferencePct).toBeCloseTo(check.smallestNoDifferencePct, 5);
});

it('a plan without a setup, or no plan, resolves nothing', () => {
  expect(plannedResolution(bundle({ pulls: [at('A', 'measured', 0)] }))).toEqual([]);
  expect(plannedResolution(bundle(null))).toEqual([]);
});
