import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  boostThresholdLn,
  defaultAssumptions,
  fourEstimates,
  ignitionDifferenceDeg,
  noiseFromHistory,
  noiseFromRepeatability,
  planResolution,
  type Fit,
  type FourEstimates,
  type PlannedSeries,
  type PullSeries,
} from '../src/index.js';
import type { Aspiration } from '@gezeit/contract';

interface Case {
  name: string;
  input: {
    setup: number[];
    aspiration: Aspiration;
    boostHeld?: boolean;
    y: number[];
    t: number[];
    T0: number[] | null;
    Tc: number[] | null;
    k: number[];
    ks: number[];
    oil: number[] | null;
    adv: number[] | null;
    map: number[] | null;
    s: [number, number] | null;
  };
  expected: Record<string, Record<keyof FourEstimates, [number, number, number]>>;
  noise: number;
  story: Record<'none' | 'day' | 'swap', number>;
  bad: number[];
  ignitionDifferenceDeg?: Record<string, [number, number]>;
  boostThresholdLn?: Record<string, number>;
}
const vectors = JSON.parse(readFileSync(new URL('./data/judgement-vectors.json', import.meta.url), 'utf8')) as {
  tolerance: number;
  cases: Case[];
  plans: { order: string; halfWidthPct: number | number[]; smallestResolvablePct?: number; smallestNoDifferencePct?: number }[];
  history: { input: { s_h: number; nu: number; m: number }; s_mid: number; s_logsd: number };
};
const { tolerance } = vectors;

function near(got: number, expected: number, what: string): void {
  expect(Math.abs(got - expected), `${what}: ${got} against ${expected}`).toBeLessThanOrEqual(tolerance);
}

function seriesOf(input: Case['input']): PullSeries {
  return {
    setup: input.setup,
    value: input.y,
    timeH: input.t,
    startIntakeK: input.T0,
    oilK: input.oil,
    chargeK: input.Tc,
    ignitionDeg: input.adv,
    logManifold: input.map?.map(Math.log) ?? null,
    pullsBefore: input.k,
    pullsSinceSwap: input.ks,
  };
}

/** The planned days of the method: pulls 5 min apart, 32 min over a swap, one conditioning pull at the start and after each swap. */
export function plannedDay(order: string): PlannedSeries {
  const planned: PlannedSeries = { setup: [], timeH: [], pullsBefore: [] };
  let minutes = 0;
  let driven = 0;
  [...order].forEach((letter, index) => {
    if (index === 0) {
      driven = 1;
      minutes = 5;
    } else if (letter !== order[index - 1]) {
      minutes += 32 + 5;
      driven += 1;
    } else minutes += 5;
    planned.setup.push(letter.charCodeAt(0) - 65);
    planned.timeH.push(minutes / 60);
    planned.pullsBefore.push(driven);
    driven += 1;
  });
  return planned;
}

describe('the estimator agrees with the check values', () => {
  it.each(vectors.cases)('$name', (vector) => {
    const series = seriesOf(vector.input);
    const assumptions = defaultAssumptions(vector.input.aspiration);
    if (vector.input.s) assumptions.noise = { mid: vector.input.s[0], logSd: vector.input.s[1] };
    const held = vector.input.boostHeld ?? vector.input.aspiration !== 'na';
    const result = fourEstimates(series, assumptions, held);
    for (const [candidate, estimates] of Object.entries(vector.expected)) {
      for (const [name, [value, low, high]] of Object.entries(estimates)) {
        const got = (result[name as keyof FourEstimates] as Fit).estimates[Number(candidate) - 1]!;
        near(got.value, value, `${name} estimate`);
        near(got.low, low, `${name} low`);
        near(got.high, high, `${name} high`);
      }
    }
    near(result.levelled.noise, vector.noise, 'noise');
    for (const story of ['none', 'day', 'swap'] as const) near(result.levelled.story[story], vector.story[story], `story ${story}`);
    vector.bad.forEach((chance, i) => near(result.levelled.bad[i]!, chance, `bad pull ${i}`));
    for (const [candidate, [plain, taken]] of Object.entries(vector.ignitionDifferenceDeg ?? {})) {
      const got = ignitionDifferenceDeg(series, Number(candidate), assumptions, result.levelled.story)!;
      near(got.plain, plain, 'ignition difference');
      near(got.learningTakenOut, taken, 'ignition difference, learning taken out');
    }
    for (const [candidate, threshold] of Object.entries(vector.boostThresholdLn ?? {})) {
      near(
        boostThresholdLn(series, series.logManifold!, Number(candidate), defaultAssumptions('turbo').witnesses.pressure),
        threshold,
        'boost threshold',
      );
    }
  });
});

describe('the plan agrees with the check values', () => {
  const assumptions = defaultAssumptions('turbo');
  const byOrder = vectors.plans.filter(({ order }) => /^[A-Z]+$/.test(order));
  it.each(byOrder)('$order', ({ order, halfWidthPct }) => {
    const got = planResolution(plannedDay(order), assumptions, assumptions.noise);
    (halfWidthPct as number[]).forEach((expected, candidate) => near(got[candidate]!.halfWidthPct, expected, 'half width'));
  });

  it('the example of the exchange format, repeatability 0.6 %', () => {
    const example = vectors.plans.at(-1)!;
    const series = { setup: [0, 1, 1, 0], timeH: [5 / 60, 42 / 60, 47 / 60, 84 / 60], pullsBefore: [1, 3, 4, 6] };
    const [got] = planResolution(series, assumptions, noiseFromRepeatability(0.006));
    near(got!.halfWidthPct, example.halfWidthPct as number, 'half width');
    near(got!.smallestResolvablePct, example.smallestResolvablePct!, 'resolvable');
    near(got!.smallestNoDifferencePct, example.smallestNoDifferencePct!, 'no difference');
  });
});

it('the history of a cell agrees with the check values', () => {
  const { input, s_mid, s_logsd } = vectors.history;
  const got = noiseFromHistory(input.s_h, input.nu, input.m);
  near(got.mid, s_mid, 's_mid');
  near(got.logSd, s_logsd, 's_logsd');
});
