import { describe, expect, it } from 'vitest';
import { bundleSchema, evidenceSchema, type Bundle, type Claim, type Curves, type Findings } from '@gezeit/contract';
import { checkClaims } from '../src/index.js';

const bundleWith = (claims: Claim[], powerAt = 'wheel'): Bundle =>
  bundleSchema.parse({
    format: 'gezeit-bundle',
    version: 1,
    programme: {
      title: 'T',
      bandRpm: [4000, 6000],
      smallestGainPct: 1,
      correction: 'NONE',
      claims,
      questions: [{ id: 'q1', kind: 'cooler-charge', smallest: 3, unit: 'K' }],
    },
    vehicle: { name: 'Texel saloon', aspiration: 'na' },
    cell: { name: 'C', powerAt },
    setups: [
      { id: 'A', name: 'A', reference: true },
      { id: 'B', name: 'B' },
    ],
    pulls: [],
  });
const findings = (levelled: { pct: number; low: number; high: number } | null) =>
  ({
    comparisons: [
      {
        reference: 'A',
        candidate: 'B',
        bandUsedRpm: [4000, 6000],
        levelled,
        answers: [{ question: 'q1', answer: 'gain', estimate: -7, low: -9, high: -5, unit: 'K', why: '' }],
      },
    ],
  }) as unknown as Findings;
const curves = {
  setups: [{ setup: 'A', engineSpeedRpm: [4000, 5000, 6000], powerW: [80_000, 100_000, 110_000] }],
  differences: [
    { reference: 'A', candidate: 'B', engineSpeedRpm: [4000, 5000, 6000], pct: [1, 2, 3], lowPct: [0, 1, 2], highPct: [2, 3, 4] },
  ],
} as unknown as Curves;
const check = (
  claim: Partial<Claim>,
  options: { levelled?: { pct: number; low: number; high: number } | null; curves?: Curves | null; powerAt?: string } = {},
) =>
  checkClaims(
    bundleWith([{ id: 'c', ...claim }], options.powerAt),
    findings(options.levelled === undefined ? { pct: 2, low: 1, high: 3 } : options.levelled),
    options.curves === undefined ? curves : options.curves,
    [],
  )[0]!;

describe('a claim of power', () => {
  it('is held against the difference at its engine speed, in its own unit', () => {
    expect(check({ quantity: 'power', value: 1, unit: 'kW', atRpm: 5000 })).toMatchObject({
      state: 'holds',
      measured: { value: 2, low: 1, high: 3, unit: 'kW' },
    });
    expect(check({ quantity: 'power', value: 2.5, unit: 'kW', atRpm: 5000 }).state).toBe('open');
    expect(check({ quantity: 'power', value: 5, unit: 'kW', atRpm: 5000 }).state).toBe('contradicted');
    expect(check({ quantity: 'power', value: 5, unit: 'hp', atRpm: 5500 }).measured!.value).toBeCloseTo(0.025 * 105, 6);
    expect(check({ quantity: 'power', value: 0.5, unit: '%' })).toMatchObject({ state: 'holds', measured: { unit: '%', value: 2 } });
    expect(check({ quantity: 'power', value: 1, unit: 'kW' }).measured!.value).toBeCloseTo(0.02 * (290 / 3), 6);
  });

  it('is not checked where it cannot be, with the reason', () => {
    expect(check({ quantity: 'power', value: 1, unit: 'kW', atRpm: 9000 })).toMatchObject({ state: 'not-checked' });
    expect(check({ quantity: 'power', value: 1, unit: 'kW', atRpm: 5000 }, { curves: null }).why).toContain('still being judged');
    expect(check({ quantity: 'power', value: 1, unit: 'kW', powerAt: 'crank', atRpm: 5000 }).why).toContain('no loss is ever added back');
    expect(check({ quantity: 'power', value: 1, unit: 'furlong', atRpm: 5000 }).why).toContain('no unit of power');
    expect(check({ quantity: 'power', unit: '%' }).why).toContain('names no figure');
    expect(check({ quantity: 'power', value: 1, unit: 'kW' }, { levelled: null }).why).toContain('Nothing is compared');
    expect(check({ quantity: 'smell', value: 1 }).state).toBe('not-checked');
  });
});

it('a claim that nothing is lost needs the interval above the smallest that matters', () => {
  const noLoss = (low: number, high: number) => check({ quantity: 'no-loss' }, { levelled: { pct: (low + high) / 2, low, high } }).state;
  expect(noLoss(-0.8, 0.4)).toBe('holds');
  expect(noLoss(-1.8, 0.4)).toBe('open');
  expect(noLoss(-3, -1.5)).toBe('contradicted');
});

it('a claim of a cooler charge is held against the answer, one of flow against the bench', () => {
  expect(check({ quantity: 'temperature', value: -5, unit: 'K' }).state).toBe('holds');
  expect(check({ quantity: 'temperature', value: -8, unit: 'K' }).state).toBe('open');
  expect(check({ quantity: 'temperature', value: -12, unit: 'K' }).state).toBe('contradicted');
  expect(check({ quantity: 'flow', value: 10, unit: '%' }).why).toContain('flow bench');
  const evidence = evidenceSchema.parse({
    format: 'gezeit-evidence',
    version: 1,
    id: 'e',
    instrument: 'flow-bench',
    title: 'F',
    inputs: {},
    figures: [{ name: 'new/moreFlow', label: 'more', value: 12, unit: '%', low: 11, high: 13 }],
    by: 'TS',
    at: '2026-01-01T00:00:00Z',
  });
  const [flow] = checkClaims(bundleWith([{ id: 'c', quantity: 'flow', value: 10, unit: '%' }]), findings(null), null, [evidence]);
  expect(flow).toMatchObject({ state: 'holds', measured: { value: 12 } });
});
