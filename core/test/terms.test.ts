import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { questionKindSchema, type Bundle, type Comparison, type Question } from '@gezeit/contract';
import { analyse, curvesOf, formatterFor, headlineOf, judgeOf, measurePulls, LEFT_OUT_WORDS, FLAG_WORDS } from '../src/index.js';
import { DEMO_DAYS, type KnownDay } from './known-days.js';

const days = DEMO_DAYS;

const asked = (day: KnownDay, questions: Question[], change: (copy: Bundle) => void = () => {}) =>
  day.changed((copy) => {
    copy.programme.questions = questions;
    change(copy);
  }).findings;
const first = (day: KnownDay, questions: Question[], change?: (copy: Bundle) => void): Comparison =>
  asked(day, questions, change).comparisons[0]!;

describe('each question by its own terms', () => {
  const gain: Question = { id: 'q1', kind: 'power-gain', smallest: 1, unit: 'pct', start: 'same' };

  it('its own smallest difference decides its answer', () => {
    const [day] = days;
    const answers = [0.3, 4].map((smallest) => first(day!, [{ ...gain, smallest }]).answers[0]!);
    expect(answers.map(({ why }) => why.includes('more than the 0.3') || why.includes('smaller than the 4'))).toEqual([true, true]);
    expect(answers[0]!.estimate).toBe(answers[1]!.estimate);
    const loss = [0.3, 4].map((smallest) => first(days[1]!, [{ ...gain, kind: 'power-no-loss', smallest }]).answers[0]!.answer);
    expect(loss).toEqual(['gain', 'gain']);
  });

  it('its own metric and band are compared, and named', () => {
    const [day] = days;
    const base = first(day!, [gain]);
    const torque = first(day!, [{ ...gain, metric: 'peakTorque' }]);
    const narrow = first(day!, [{ ...gain, bandRpm: [5600, 6400] }]);
    expect(torque.answers[0]!.why).toMatch(/Peak torque at the wheel/);
    expect(torque.answers[0]!.estimate).not.toBe(base.answers[0]!.estimate);
    expect(narrow.bandUsedRpm).toEqual([5600, 6400]);
    expect(narrow.answers[0]!.why).toContain('5600 to 6400');
    expect(narrow.answers[0]!.estimate!).toBeGreaterThan(base.answers[0]!.estimate!);
  });

  it('one question’s start changes no other’s number, and a start that cannot be given is no answer', () => {
    const equal = (copy: Bundle) => {
      // Equal rests and an own start that can be told from the same one.
      copy.setups.forEach((setup) => delete setup.state['gate']);
    };
    const cooler = days[2]!;
    const sameFuel = (copy: Bundle) => {
      equal(copy);
      copy.setups[1]!.state = { ...copy.setups[0]!.state };
    };
    const own: Question = { id: 'q2', kind: 'power-no-loss', smallest: 1, unit: 'pct', start: 'own' };
    const alone = first(cooler, [gain], sameFuel);
    const both = first(cooler, [gain, own], sameFuel);
    expect(both.answers[0]).toEqual(alone.answers[0]);
    expect(both.answers[0]!.of).toBe('levelled');
    expect(both.answers[1]!.of).toBe('ownStart');
    expect(both.answers[1]!.estimate).toBe(both.ownStart!.pct);
    const hurried = first(days[0]!, [gain, own]);
    expect(hurried.answers[0]!.answer).toBe('gain');
    expect(hurried.answers[1]).toMatchObject({ answer: 'not-resolved', of: 'ownStart', estimate: null });
    expect(hurried.answers[1]!.why).toMatch(/own start, and that cannot be judged.*rests before the pulls differ/);
  });

  it('a question of certain setups is asked of those only', () => {
    const findings = asked(days[1]!, [gain, { ...gain, id: 'q2', kind: 'power-no-loss', setups: ['C'] }]);
    expect(findings.comparisons.map(({ candidate, answers }) => [candidate, answers.length])).toEqual([
      ['B', 1],
      ['C', 2],
      ['D', 1],
    ]);
  });

  it('a bound never reads as a gain: its upper end is what is to be had', () => {
    const [day] = days;
    const bound = first(day!, [gain], (copy) => (copy.setups[1]!.bound = true));
    const headline = headlineOf(bound.answers[0]!, formatterFor());
    expect(headline.tone).toBe('plain');
    expect(headline.before).toMatch(/is a bound, never for sale: at most \+3\.2/);
    expect(bound.verdict.why).not.toMatch(/gains/);
  });
});

const KINDS = questionKindSchema.options;
const questionArbitrary = fc.record({
  kind: fc.constantFrom(...KINDS),
  smallest: fc.option(fc.double({ min: 0.1, max: 9, noNaN: true }), { nil: null }),
  start: fc.constantFrom('same' as const, 'own' as const, null),
  metric: fc.option(fc.constantFrom('meanPower' as const, 'peakPower' as const, 'meanTorque' as const, 'peakTorque' as const), {
    nil: null,
  }),
  narrow: fc.boolean(),
});
const stateArbitrary = fc.record({
  tune: fc.boolean(),
  fan: fc.boolean(),
  bound: fc.boolean(),
  dirty: fc.boolean(),
  leftOut: fc.boolean(),
});

describe('over random programmes', () => {
  it('everything that quotes an answer quotes the same estimate; what is withheld has no claim that holds; a further question changes nothing', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: days.length - 1 }),
        fc.array(questionArbitrary, { minLength: 1, maxLength: 4 }),
        questionArbitrary,
        stateArbitrary,
        (index, drawn, further, state) => {
          const day = days[index]!;
          const band = day.bundle.programme.bandRpm;
          const question = ({ narrow, ...entry }: typeof further, i: number): Question => ({
            id: `q${i}`,
            unit: null,
            ...entry,
            bandRpm: narrow ? [band[0] + 300, band[1] - 300] : null,
          });
          const questions = drawn.map(question);
          const change = (copy: Bundle) => {
            const candidate = copy.setups.find(({ reference }) => !reference)!;
            if (state.tune) candidate.state = { ...candidate.state, tune: 'another' };
            if (state.fan) candidate.state = { ...candidate.state, fan: 'side' };
            if (state.bound) candidate.bound = true;
            if (state.dirty) copy.condition!.find(({ item }) => item === 'filter')!.state = 'not-good';
            if (state.leftOut) copy.pulls.find(({ kind }) => kind === 'measured')!.excluded = 'a gust';
            copy.programme.claims = [
              { id: 'c1', setup: candidate.id, quantity: 'power', value: -50, unit: '%' },
              { id: 'c2', setup: candidate.id, quantity: 'no-loss' },
              { id: 'c3', setup: candidate.id, quantity: 'power', value: -500, unit: 'kW', atRpm: 5000 },
            ];
          };
          const findings = asked(day, questions, change);
          const more = asked(day, [...questions, question(further, questions.length)], change);
          findings.comparisons.forEach((comparison, k) => {
            // A further question changes no other's answer.
            expect(more.comparisons[k]!.answers.slice(0, questions.length)).toEqual(comparison.answers);
            for (const answer of comparison.answers) {
              const told = headlineOf(answer, formatterFor());
              const text = [`${told.before}${told.figure}${told.after}`, ...told.second].join(' ');
              for (const sentence of told.second) expect(answer.why).toContain(sentence);
              expect(answer.why.startsWith(`${told.before}${told.figure}${told.after}`)).toBe(true);
              expect(text.length).toBeGreaterThan(10);
              if (answer.of === 'ownStart' && comparison.ownStart === null && answer.estimate === null)
                expect(answer.answer).toBe('not-resolved');
              if (answer.estimate !== null && answer.unit === 'pct' && answer.of !== 'airMeter')
                expect(answer.why).toContain(formatterFor().percent(answer.estimate).trim());
            }
            const quoted = comparison.leading === 'ownStart' ? comparison.ownStart : comparison.levelled;
            const gains = comparison.answers.filter(({ kind }) => kind === 'power-gain');
            if (gains[0]) expect([gains[0].estimate, gains[0].answer]).toEqual([quoted?.pct ?? null, comparison.verdict.power]);
          });
          const leading = ['power-gain', 'package-gain', 'power-no-loss'].flatMap((kind) =>
            questions.filter((entry) => entry.kind === kind),
          )[0];
          const comparison = findings.comparisons[0]!;
          const answer = leading && comparison.answers.find(({ question: id }) => id === leading.id);
          if (answer && (answer.answer === 'withheld' || answer.estimate === null))
            for (const claim of findings.claims.filter(({ claim: id }) => id !== 'c2')) expect(claim.state).not.toBe('holds');
          if (answer && answer.estimate !== null) expect(findings.claims[0]!.of).toBe(answer.of);
          for (const pull of findings.pulls.filter(({ status }) => status === 'excluded')) {
            expect(pull.reasons.length).toBeGreaterThan(0);
            for (const reason of pull.reasons) expect(reason in LEFT_OUT_WORDS || reason in FLAG_WORDS || reason === 'a gust').toBe(true);
          }
        },
      ),
      { numRuns: 40, seed: 20261128 },
    );
  }, 180_000);

  it('the curve is drawn of the estimate that leads', () => {
    const [day] = days;
    const copy = structuredClone(day!.bundle);
    expect(curvesOf(judgeOf(copy, measurePulls(copy, day!.tables))).differences[0]!.of).toBe('levelled');
    const cooler = structuredClone(days[2]!.bundle);
    cooler.setups[1]!.state = { ...cooler.setups[0]!.state };
    cooler.programme.questions = [{ id: 'q', kind: 'power-gain', start: 'own', smallest: 1, unit: 'pct' }];
    expect(analyse(cooler, days[2]!.tables).findings.comparisons[0]!.leading).toBe('ownStart');
    expect(curvesOf(judgeOf(cooler, measurePulls(cooler, days[2]!.tables))).differences[0]!.of).toBe('ownStart');
  });
});
