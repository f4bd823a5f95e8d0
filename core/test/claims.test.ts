import { describe, expect, it } from 'vitest';
import { evidenceSchema, type Bundle, type Claim, type Evidence, type Question } from '@gezeit/contract';
import { curvesOf, judgeOf, measurePulls } from '../src/index.js';
import { demoDay, type KnownDay } from './known-days.js';

const [box, trumpets] = [demoDay('sealed-airbox'), demoDay('four-trumpets')];

const analysed = (day: KnownDay, claims: Partial<Claim>[], change: (copy: Bundle) => void = () => {}, evidence: Evidence[] = []) =>
  day.changed((copy) => {
    copy.programme.claims = claims.map((claim, i) => ({ id: `c${i}`, setup: 'B', ...claim }));
    change(copy);
  }, evidence);
const check = (claim: Partial<Claim>, change?: (copy: Bundle) => void, evidence?: Evidence[]) =>
  analysed(box, [claim], change, evidence).findings.claims[0]!;

/** States a key of the candidate alone: in the demo both setups share one state. */
const stated = (copy: Bundle, key: string, value: string) => (copy.setups[1]!.state = { ...copy.setups[1]!.state, [key]: value });

describe('a claim of power', () => {
  it('is held against the difference at its engine speed, as the curve draws it, in its own unit', () => {
    const analysis = analysed(box, [
      { quantity: 'power', value: 0.1, unit: 'kW', atRpm: 6000 },
      { quantity: 'power', value: 8, unit: 'hp', atRpm: 6000 },
      { quantity: 'power', value: 0.1, unit: '%', atRpm: 6000 },
      { quantity: 'power', value: 0.5, unit: '%' },
      { quantity: 'power', value: 0.5, unit: 'kW' },
      { quantity: 'torque', value: 1, unit: 'N·m', atRpm: 6000 },
      { quantity: 'torque', value: 1, unit: 'lb·ft', atRpm: 6000 },
    ]);
    const { findings } = analysis;
    const curves = curvesOf(judgeOf(analysis.bundle, measurePulls(analysis.bundle, box.tables)));
    const [difference] = curves.differences;
    const at = difference!.engineSpeedRpm.indexOf(6000);
    const stock = curves.setups.find(({ setup }) => setup === 'A')!;
    const [kW, hp, percent, band, bandKW, torque, foot] = findings.claims;
    expect(percent).toMatchObject({ unit: '%', of: 'levelled', value: difference!.pct[at], low: difference!.lowPct[at] });
    const base = stock.powerW[stock.engineSpeedRpm.indexOf(6000)]! / 1000;
    expect(kW!.value).toBeCloseTo((difference!.pct[at]! / 100) * base, 6);
    expect(hp).toMatchObject({ state: 'contradicted', unit: 'kW' });
    const { pct: value, low, high } = findings.comparisons[0]!.levelled!;
    expect(band).toMatchObject({
      low,
      high,
      unit: '%',
      value,
    });
    expect(bandKW!.value! / 123).toBeCloseTo(findings.comparisons[0]!.levelled!.pct / 100, 3);
    // A torque at a speed is that speed's power: 9549 kW/rpm.
    expect(torque).toMatchObject({ unit: 'N·m' });
    expect(torque!.value).toBeCloseTo((kW!.value! * 9549.3) / 6000, 2);
    expect(foot!.value).toBe(torque!.value);
  });

  it('made after the curve was seen is held against the wider band over all engine speeds', () => {
    const before = check({ value: 1, unit: '%', atRpm: 6000 });
    const after = check({ value: 1, unit: '%', atRpm: 6000, afterwards: true });
    expect(after.value).toBe(before.value);
    expect(after.high! - after.low!).toBeGreaterThan(1.2 * (before.high! - before.low!));
  });

  it('is not checked where it cannot be, with the reason', () => {
    expect(check({ value: 1, unit: 'kW', atRpm: 9000 }).why).toMatch(/do not reach 9000/);
    expect(check({ value: 1, unit: 'kW', powerAt: 'crank', atRpm: 5000 }).why).toContain('no loss is ever added back');
    expect(check({ value: 1, unit: 'furlong', atRpm: 5000 }).why).toContain('no unit of power');
    expect(check({ unit: '%' }).why).toContain('names no figure');
    expect(check({ quantity: 'smell', value: 1 })).toMatchObject({ state: 'not-checked', value: null });
    const nothing = check({ value: 1, unit: 'kW' }, (copy) => (copy.pulls = copy.pulls.filter(({ setup }) => setup === 'A')));
    expect(nothing.why).toContain('Nothing is compared');
  });
});

describe('a claim goes through the rules of its question', () => {
  const withheldBy: [string, (copy: Bundle) => void][] = [
    ['another tune', (copy) => stated(copy, 'tune', 'map 13')],
    ['another gear', (copy) => stated(copy, 'gear', '3')],
    ['a dirty reference filter', (copy) => (copy.condition!.find(({ item }) => item === 'filter')!.state = 'not-good')],
  ];
  it.each(withheldBy)('%s withholds it as it withholds the answer', (_, change) => {
    const { comparisons, claims } = analysed(box, [{ value: 0.1, unit: '%' }, { quantity: 'no-loss' }], change).findings;
    expect(comparisons[0]!.verdict.power).toBe('withheld');
    for (const claim of claims) {
      expect(claim.state).toBe('withheld');
      expect(claim.why).toMatch(/^Withheld as the answer is: [^.]+(\.\d[^.]*)*\.$/);
      expect(claim.value).not.toBeNull();
    }
  });

  it('but a package contains its tune: its claim is answered', () => {
    const claim = check({ value: 0.1, unit: '%' }, (copy) => {
      stated(copy, 'tune', 'map 13');
      copy.programme.questions = [{ id: 'q1', kind: 'package-gain', smallest: 1, unit: 'pct' }];
    });
    expect(claim.state).toBe('holds');
  });

  it('with a question from its own start that cannot be given, no claim holds', () => {
    const own: Question[] = [{ id: 'q1', kind: 'power-gain', smallest: 1, unit: 'pct', start: 'own' }];
    expect(check({ value: 0.1, unit: '%' }, (copy) => (copy.programme.questions = own))).toMatchObject({ state: 'withheld', value: null });
  });
});

describe('a claim is judged on the setup that it names, and on no other', () => {
  it('each its own; one that names none among several, or an archived one, is not checked', () => {
    const claims = [
      { setup: 'B', value: 0.1, unit: '%' },
      { setup: 'D', value: 0.1, unit: '%' },
      { setup: null, value: 0.1, unit: '%' },
      { setup: 'C', value: 0.1, unit: '%' },
    ];
    const { comparisons, claims: checked } = analysed(
      trumpets,
      claims.map((claim) => ({ ...claim })),
      (copy) => (copy.setups.find(({ id }) => id === 'C')!.archived = true),
    ).findings;
    const levelled = (candidate: string) => comparisons.find((entry) => entry.candidate === candidate)!.levelled!.pct;
    expect([checked[0]!.value, checked[1]!.value]).toEqual([levelled('B'), levelled('D')]);
    expect(checked[2]).toMatchObject({ state: 'not-checked', why: expect.stringContaining('does not say which setup') });
    expect(checked[3]).toMatchObject({ state: 'not-checked', candidate: 'C', why: expect.stringContaining('is not compared') });
  });

  const flow = (id: string, setup: string | null, value: number, item = 'new'): Evidence =>
    evidenceSchema.parse({
      format: 'gezeit-evidence',
      version: 1,
      id,
      instrument: 'flow-bench',
      title: 'F',
      setup,
      inputs: {},
      figures: [{ name: `${item}/moreFlow`, label: 'more', value, unit: '%', low: value - 1, high: value + 1 }],
      by: 'TS',
      at: '2026-01-01T00:00:00Z',
    });
  const claimed = { quantity: 'flow', value: 10, unit: '%' };

  it('a claim of flow on the flow bench’s comparison of that setup, whatever was measured last', () => {
    expect(check(claimed, undefined, []).why).toContain('No comparison of the flow bench is kept for B');
    expect(check(claimed, undefined, [flow('e1', 'C', 40)]).state).toBe('not-checked');
    expect(check(claimed, undefined, [flow('e1', 'B', 12), flow('e2', 'C', 4)])).toMatchObject({
      state: 'holds',
      value: 12,
      of: 'flowBench',
    });
    expect(check(claimed, undefined, [flow('e1', 'B', 12), flow('e2', 'B', 4, 'other')]).why).toContain('Several comparisons');
    // Where the path of the setup names the evidence and its item, that is the one.
    const linked = check(
      claimed,
      (copy) =>
        (copy.setups[1]!.path!.find(({ name }) => name === 'filter')!.bench = {
          viscousPerM3: 0,
          inertialPerM4: 1,
          evidence: 'e3',
          item: 'cylinder',
        }),
      [flow('e3', null, 3, 'cylinder'), flow('e3b', null, 30, 'panel')],
    );
    expect(linked).toMatchObject({ state: 'contradicted', value: 3 });
  });
});

it('a claim that nothing is lost is held against the limit of its question', () => {
  const noLoss = (smallest: number) =>
    analysed(trumpets, [{ quantity: 'no-loss' }], (copy) => {
      copy.programme.questions = [{ id: 'q1', kind: 'power-no-loss', smallest, unit: 'pct' }];
    }).findings.claims[0]!.state;
  expect(noLoss(1)).toBe('holds');
  const { low } = trumpets.findings.comparisons[0]!.levelled!;
  expect(low).toBeLessThan(0);
  expect(noLoss(Math.max(0.01, -low / 2))).toBe('open');
});

it('a claim that nothing is lost or differs is held against its own limit where it names one', () => {
  const { low, high } = trumpets.findings.comparisons[0]!.levelled!;
  expect(low).toBeLessThan(0);
  expect(high).toBeGreaterThan(0);
  const state = (quantity: string, value: number) =>
    analysed(trumpets, [{ quantity, value, unit: '%', setup: 'B' }]).findings.claims[0]!.state;
  expect([state('no-loss', -low + 0.01), state('no-loss', -low - 0.01)]).toEqual(['holds', 'open']);
  const widest = Math.max(-low, high);
  expect([state('no-difference', widest + 0.01), state('no-difference', widest - 0.01)]).toEqual(['holds', 'open']);
  const { low: least } = box.findings.comparisons[0]!.levelled!;
  expect(analysed(box, [{ quantity: 'no-difference', value: least - 0.01, unit: '%' }]).findings.claims[0]!.state).toBe('contradicted');
});

it('a claim of a cooler charge is held against the answer, and asks for the question', () => {
  const day = demoDay('water-cooler-and-fuel');
  const state = (value: number) => analysed(day, [{ quantity: 'temperature', value, unit: 'K' }]).findings.claims[0]!.state;
  expect([state(-10), state(-15.6), state(-20)]).toEqual(['holds', 'open', 'contradicted']);
  expect(check({ quantity: 'temperature', value: -5, unit: 'K' }).why).toContain('Ask “Cooler charge”');
});
