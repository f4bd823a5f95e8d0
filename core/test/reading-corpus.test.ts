import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEVICES, enumerateTables } from './data/reading/enumerate.js';
import { HABITS } from './data/reading/habits.js';
import { judge } from './data/reading/measure.js';
import { TIME_FORMS, UNIT_PLACES, writeTable, type Form } from './data/reading/write.js';

/** So many of the enumerated tables are read here; all of them by `npm run reading`. */
const EVERY = 13;

function counts(heldOut: boolean, isWanted: (form: Form) => boolean = () => true) {
  const sum = { right: 0, unknown: 0, wrong: 0, said: [] as string[] };
  let turn = 0;
  for (const { habit, write, form } of enumerateTables()) {
    turn += 1;
    if (turn % EVERY !== 0 || habit.heldOut !== heldOut || !isWanted(form)) continue;
    for (const { outcome, column, taken, why } of judge(write())) {
      sum[outcome] += 1;
      if (outcome === 'wrong') sum.said.push(`${habit.name}: ${column.header} → ${taken} ${why} ${JSON.stringify(form)}`);
    }
  }
  return { ...sum, all: sum.right + sum.unknown + sum.wrong };
}

describe('a corpus of habits, units, times and cells', { timeout: 120_000 }, () => {
  it('is read right, and where it is not it is asked', () => {
    const { right, wrong, all, said } = counts(false, ({ units }) => units !== 'none');
    expect(right / all).toBeGreaterThan(0.99);
    expect(wrong / all, said.join('\n')).toBeLessThan(0.002);
  });

  it('where no unit is written the values mostly tell it, and else it is asked', () => {
    const { right, wrong, all, said } = counts(false, ({ units }) => units === 'none');
    expect(right / all).toBeGreaterThan(0.9);
    expect(wrong / all, said.join('\n')).toBeLessThan(0.01);
  });

  it('ways of naming that nobody had in mind are read mostly, and seldom wrong', () => {
    const { right, wrong, all, said } = counts(true);
    expect(right / all).toBeGreaterThan(0.7);
    expect(wrong / all, said.join('\n')).toBeLessThan(0.02);
  });

  it('any mixture of columns, marks, units and times is read without a wrong column', () => {
    const known = HABITS.filter(({ heldOut }) => !heldOut);
    const form = fc.record({
      mark: fc.constantFrom([',', '.'] as const, [';', ','] as const, ['\t', '.'] as const, ['|', '.'] as const, [';', '.'] as const),
      units: fc.constantFrom(...UNIT_PLACES.filter((place) => place !== 'none')),
      system: fc.constantFrom('metric', 'imperial', 'bar', 'odd'),
      time: fc.constantFrom(...TIME_FORMS),
      thousands: fc.boolean(),
      gaps: fc.boolean(),
    });
    const pick = fc.record({
      habit: fc.constantFrom(...known),
      device: fc.constantFrom(...Object.keys(DEVICES)),
      way: fc.nat(3),
      form,
      seed: fc.nat(1000),
      keep: fc.array(fc.boolean(), { minLength: 30, maxLength: 30 }),
    });
    fc.assert(
      fc.property(pick, ({ habit, device, way, form: { mark, ...rest }, seed, keep }) => {
        const keys = DEVICES[device]!.filter((key, i) => key === 'engineSpeed' || keep[i]);
        const written = writeTable(
          habit,
          keys,
          way,
          { ...(rest as Omit<Form, 'delimiter' | 'decimal'>), delimiter: mark[0], decimal: mark[1] },
          seed,
        );
        const wrong = judge(written).filter(({ outcome }) => outcome === 'wrong');
        expect(wrong.map(({ column, taken, why }) => `${column.header} → ${taken} ${why}`)).toEqual([]);
      }),
      { numRuns: 60, seed: 20261128 },
    );
  });

  it('would be found out: a header that says something else is counted wrong', () => {
    const form: Form = { delimiter: ',', decimal: '.', units: 'bracket', system: 'metric', time: 's', thousands: false, gaps: false };
    const written = writeTable(HABITS[0]!, ['engineSpeed', 'oilTemperature'], 0, form, 1);
    const swapped = { ...written, text: written.text.replace('Oil temp', 'Water temp') };
    expect(judge(swapped).map(({ outcome }) => outcome)).toEqual(['right', 'right', 'wrong']);
  });
});
