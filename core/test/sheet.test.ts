import type { Bundle, Comparison, Findings, SheetSource } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import {
  analyseMeasured,
  analyseWithLeaning,
  claimFromText,
  differingFigures,
  formatterFor,
  inputWord,
  PLAIN_FORMATTER,
  publicVersionOf,
  QUESTION_LABELS,
  answerWord,
  headlineOf,
  isPowerWithheld,
  sheetOf,
  sideBySideOf,
  withWords,
  type Sheet,
} from '../src/index.js';
import { DEMO_DAYS, demoDay, POPULATION_DAYS, type KnownDay } from './known-days.js';

const IMPERIAL = { power: 'hp', torque: 'lb·ft', temperature: '°F', pressure: 'psi' } as const;
const sourceOf = ({ bundle, leaning, curves, tide }: KnownDay): SheetSource => ({ bundle, findings: leaning, curves, tide });
const DAYS = [...DEMO_DAYS, ...POPULATION_DAYS];
const [airbox, cooler] = [demoDay('sealed-airbox'), demoDay('water-cooler-and-fuel')];
const textsOf = (sheet: Sheet): string[] => [
  ...sheet.answers.flatMap(({ question, word, sentence, behind }) => [question, word, sentence, ...behind]),
  ...sheet.tested.flatMap(({ label, text }) => [label, text]),
  ...sheet.parts.flatMap(({ lines }) => lines),
  ...sheet.leftOut.map(({ text }) => text),
  ...sheet.mayBeSaid.flatMap(({ short, full }) => [short, full]),
  ...sheet.mayNotBeSaid,
  ...sheet.clouds,
  ...sheet.claims.flatMap(({ text, finding }) => [text, finding.why]),
  ...sheet.limits,
  ...(sheet.atTheEngine === null ? [] : [sheet.atTheEngine]),
  sheet.order,
];
/** Figures with a sign and a per cent sign, as they are printed. */
const percentages = (text: string) => [...text.matchAll(/[+−]\d+\.\d(?=\s?%)/g)].map(([figure]) => figure);

describe.each(DAYS)('the sheet of $name', (day) => {
  it('counts pulls alone: a drive is neither compared nor driven to condition', () => {
    const given = sourceOf(day);
    for (const comparison of given.findings.comparisons) {
      const own = given.bundle.pulls.filter(
        ({ setup, kind }) => [comparison.reference, comparison.candidate].includes(setup) && kind !== 'drive',
      );
      const { order, tested, leftOut } = sheetOf(given, comparison, PLAIN_FORMATTER);
      expect(order.match(/[A-Za-z]/g)).toHaveLength(own.length);
      const conditioning = own.filter(({ kind }) => kind !== 'measured').length;
      expect(tested.find(({ label }) => label === 'Pulls')!.text).toContain(`, ${conditioning} more driven to condition`);
      for (const { label } of leftOut) expect(own.map(({ id }) => id)).toContain(label);
    }
  });

  it('beside the other setups says the same figures as the findings, and shows none that is withheld', () => {
    const { bundle, findings } = sourceOf(day);
    const page = sideBySideOf(bundle, findings, [], PLAIN_FORMATTER);
    expect(page.setups.map(({ id }) => id).sort()).toEqual(
      [...new Set(findings.comparisons.flatMap(({ reference, candidate }) => [reference, candidate]))].sort(),
    );
    expect(page.setups[0]!.reference).toBe(true);
    for (const { cells } of page.rows) expect(cells).toHaveLength(page.setups.length);
    for (const { candidate, answers } of findings.comparisons)
      answers.forEach((answer, i) => {
        const { text, range } = page.rows[i]!.cells[page.setups.findIndex(({ id }) => id === candidate)]!;
        if (answer.answer === 'withheld') expect(`${text}${range}`).not.toMatch(/\d/);
        else expect(text).toBe(headlineOf(answer, PLAIN_FORMATTER).figure || answerWord(answer.kind, answer.answer, false));
      });
    for (const { setup, section, dropKPa } of findings.restriction) {
      const row = page.rows.find(({ label }) => label === `Drop over the ${section}`);
      const at = page.setups.findIndex(({ id }) => id === setup);
      if (at >= 0) expect(row!.cells[at]!.text).toContain(PLAIN_FORMATTER.pressure(1000 * dropKPa));
    }
    expect(new Set(page.rows.map(({ label }) => label)).size).toBe(page.rows.length);
  });

  it('says what its findings say, to the printed digit, and nothing that cannot be read', () => {
    const given = sourceOf(day);
    for (const comparison of given.findings.comparisons) {
      const sheet = sheetOf(given, comparison, PLAIN_FORMATTER);
      const texts = textsOf(sheet);
      for (const text of texts) expect(text).not.toMatch(/undefined|NaN|null|\[object|Infinity|\{\{/);
      comparison.answers.forEach((answer, i) => {
        expect(answer.why.startsWith(sheet.answers[i]!.sentence)).toBe(true);
        expect(sheet.answers[i]!.question).toContain(QUESTION_LABELS[answer.kind]);
      });
      const known = new Set(
        comparison.answers.flatMap(({ estimate, low, high, why }) => [
          ...[estimate, low, high].flatMap((value) => (value === null ? [] : [PLAIN_FORMATTER.percent(value).replace(/\s?%/, '')])),
          ...percentages(why),
        ]),
      );
      for (const statement of sheet.mayBeSaid) for (const figure of percentages(statement.full)) expect(known).toContain(figure);
    }
  });

  it('lets be said only what is answered, each with its conditions, and lists every other question among what may not', () => {
    const given = sourceOf(day);
    for (const comparison of given.findings.comparisons) {
      const { mayBeSaid, mayNotBeSaid, candidate } = sheetOf(given, comparison, PLAIN_FORMATTER);
      const answered = comparison.answers.filter(({ answer }) => answer !== 'withheld' && answer !== 'not-resolved');
      expect(mayBeSaid.length).toBeLessThanOrEqual(candidate.bound ? 0 : answered.length);
      for (const { full } of mayBeSaid) {
        expect(full).toContain(given.bundle.vehicle.name);
        expect(full).toMatch(/\d+ and \d+ pulls\./);
      }
      for (const { answer, kind } of comparison.answers) {
        if (answer === 'withheld') expect(mayNotBeSaid.join('\n')).toContain(`Nothing on “${QUESTION_LABELS[kind]}”`);
        if (answer === 'not-resolved') expect(mayNotBeSaid.join('\n')).toContain(`Neither yes nor no on “${QUESTION_LABELS[kind]}”`);
      }
      expect(mayNotBeSaid.join('\n')).toContain('other cars');
      expect(mayNotBeSaid.join('\n')).toContain('law of the place');
    }
  });
});

describe('our own words', () => {
  it('are supported where they repeat what may be said, and beyond the data where they say more; nothing else of the sheet changes', () => {
    let [repeated, beyond] = [0, 0];
    for (const day of DAYS.slice(0, 9)) {
      const given = sourceOf(day);
      const { measured, findings: without } = day;
      for (const comparison of without.comparisons) {
        const before = sheetOf({ ...given, findings: without }, comparison, PLAIN_FORMATTER);
        const texts = before.mayBeSaid
          .map(({ short }) => short)
          // As it is said, and said a little otherwise: where it has a figure that can be held against something, that must hold too.
          .flatMap((short): [string, string][] => [
            [short, 'supported'],
            ...(claimFromText(short).understood ? [[`${short} indeed`, 'supported'] satisfies [string, string]] : []),
          ]);
        // Without a figure there is nothing to hold against a measurement, but where all of it is withheld.
        texts.push(['sounds better', isPowerWithheld(comparison) ? 'beyond' : 'unchecked']);
        const high = comparison.levelled?.high;
        if (high !== undefined) texts.push([`+${(Math.max(high, 0) + 1).toFixed(2)} %`, 'beyond']);
        const claims = texts.map(([text], i) => ({
          ...claimFromText(text).fields,
          ...{ id: `own${i}`, text, setup: comparison.candidate, ownWords: true, by: 'TS' },
        }));
        const bundle = {
          ...given.bundle,
          programme: { ...given.bundle.programme, claims: [...(given.bundle.programme.claims ?? []), ...claims] },
        };
        const { findings } = analyseMeasured(bundle, measured);
        const again = findings.comparisons.find(({ candidate }) => candidate === comparison.candidate)!;
        const { ownWords, ...after } = sheetOf({ ...given, bundle, findings }, again, PLAIN_FORMATTER);
        expect(ownWords.map(({ text, state }) => [text, state])).toEqual(texts);
        for (const { why } of ownWords) expect(why).not.toBe('');
        expect([after.mayBeSaid, after.mayNotBeSaid, after.limits]).toEqual([before.mayBeSaid, before.mayNotBeSaid, before.limits]);
        const version = publicVersionOf({ ...given, bundle, findings }, again, PLAIN_FORMATTER);
        expect(version.ownWords.map(({ state }) => state)).toEqual(texts.map(([, state]) => state));
        repeated += texts.filter(([, state]) => state === 'supported').length;
        beyond += texts.filter(([, state]) => state === 'beyond').length;
      }
    }
    expect(repeated).toBeGreaterThan(5);
    expect(beyond).toBeGreaterThan(10);
  });
});

describe('what may be said', () => {
  it('holds the truth: “at least” on simulated days whose effect is known', () => {
    let [said, wrong] = [0, 0];
    for (const day of POPULATION_DAYS) {
      const [comparison] = day.leaning.comparisons;
      const [answer] = comparison!.answers;
      if (!answer || !['gain', 'loss'].includes(answer.answer) || answer.low === null || answer.high === null) continue;
      said += 1;
      const truthPct = 100 * Math.expm1(day.truth.levelled);
      if (answer.answer === 'gain' ? truthPct < answer.low : truthPct > answer.high) wrong += 1;
    }
    expect(said).toBeGreaterThan(3);
    expect(wrong).toBeLessThanOrEqual(1);
  });

  it('is nothing of a bound, nor where power is withheld', () => {
    const given = sourceOf(cooler);
    const [comparison] = given.findings.comparisons;
    const power = sheetOf(given, comparison!, PLAIN_FORMATTER);
    expect(power.mayBeSaid.some(({ full }) => /mean power/.test(full))).toBe(false);
    expect(power.mayNotBeSaid[0]).toMatch(/^Nothing on “/);
    const bound: Bundle = {
      ...given.bundle,
      setups: given.bundle.setups.map((setup) => (setup.id === comparison!.candidate ? { ...setup, bound: true } : setup)),
    };
    const sheet = sheetOf({ ...given, bundle: bound }, comparison!, PLAIN_FORMATTER);
    expect(sheet.mayBeSaid).toEqual([]);
    expect(sheet.mayNotBeSaid[0]).toContain('never for sale');
  });

  it('stands in the units that are chosen', () => {
    const given = sourceOf(cooler);
    const imperial = formatterFor(IMPERIAL);
    const findings = withWords(given.findings, imperial) as Findings;
    const texts = textsOf(sheetOf({ ...given, findings }, findings.comparisons[0]!, imperial)).join('\n');
    expect(texts).toMatch(/°F/);
    expect(texts).not.toMatch(/\d\s°C|\d\skPa/);
  });

  it('tells what was changed after results, what was left out and by whom, and what differs between the setups', () => {
    const given = sourceOf(airbox);
    const [a, b] = given.bundle.setups;
    const bundle: Bundle = {
      ...given.bundle,
      setups: [a!, { ...b!, afterwards: true, state: { ...b!.state, bonnet: 'open' } }],
      pulls: given.bundle.pulls.map((pull) =>
        pull.id === 'p03'
          ? { ...pull, amended: [{ what: 'weather', by: 'EB Elin Bora', at: '2026-03-05T08:00:00Z', why: 'read again' }] }
          : pull,
      ),
    };
    const sheet = sheetOf({ ...given, bundle }, given.findings.comparisons[0]!, PLAIN_FORMATTER);
    expect(sheet.limits.join('\n')).toContain('Added after results were known: B');
    expect(sheet.leftOut).toEqual([{ label: 'p03', text: 'weather corrected by EB Elin Bora: read again' }]);
    expect(sheet.tested.find(({ label }) => label === 'Bonnet')!.text).toBe('A: closed; B: open');
    expect(sheet.order).toMatch(/^a A A · b B B B · /);
  });
});

it('claims from outside stand beside the measurement, whatever became of them, and none of another setup', () => {
  const given = sourceOf(airbox);
  const [comparison] = given.findings.comparisons;
  const claims = [
    { id: 'holds', by: 'TS', text: '+0.1 %', value: 0.1, unit: '%', quantity: 'power' },
    { id: 'too-much', by: 'TS', text: '+30 %', value: 30, unit: '%', quantity: 'power' },
    { id: 'other', by: 'TS', text: '+1 % of nobody', value: 1, unit: '%', quantity: 'power', setup: 'Z' },
    { id: 'own', by: 'TS', text: 'our own', ownWords: true },
  ];
  const bundle = { ...given.bundle, programme: { ...given.bundle.programme, claims } };
  const { findings } = analyseMeasured(bundle, airbox.measured);
  const sheet = sheetOf({ ...given, bundle, findings }, { ...comparison! }, PLAIN_FORMATTER);
  expect(sheet.claims.map(({ text, finding }) => [text, finding.state])).toEqual([
    ['+0.1 %', 'holds'],
    ['+30 %', 'contradicted'],
  ]);
  for (const { text } of sheet.claims) expect(sheet.mayNotBeSaid.join('\n')).not.toContain(`“${text}”`);
});

describe('power at the engine', () => {
  const analysed = (change: (bundle: Bundle) => void) => {
    const bundle = structuredClone(airbox.bundle);
    change(bundle);
    return analyseWithLeaning(bundle, airbox.tables).findings.comparisons[0]!;
  };

  it('is an estimate by a factor with its range, from the far ends of both, and said to be assumed', () => {
    const given = sourceOf(airbox);
    const [comparison] = given.findings.comparisons;
    const { low, high } = comparison!.levelled!;
    const used = given.findings.pulls.filter(({ setup, status }) => setup === 'A' && status === 'used');
    const wheelKW = used.reduce((sum, { meanPowerKW }) => sum + meanPowerKW!, 0) / used.length;
    const estimate = comparison!.engineEstimate!;
    expect(estimate.factor.low).toBeCloseTo(1.15 - 1.96 * 0.05, 3);
    expect(estimate.referenceKW.high).toBeCloseTo(wheelKW * (1.15 + 1.96 * 0.05), 2);
    expect(estimate.differenceKW.low).toBeCloseTo((low / 100) * wheelKW * estimate.factor.low, 3);
    expect(estimate.differenceKW.high).toBeCloseTo((high / 100) * wheelKW * estimate.factor.high, 3);
    const sheet = sheetOf(given, comparison!, PLAIN_FORMATTER);
    expect(sheet.atTheEngine).toContain('which is assumed');
    expect(sheet.atTheEngine).toContain(`${estimate.referenceKW.low.toFixed(0)} to ${estimate.referenceKW.high.toFixed(0)}`);
    expect(publicVersionOf(given, comparison!, PLAIN_FORMATTER).notMeasured.join()).toContain('Power at the engine: not measured');
  });

  it('follows the factor that was put in, and is in the unit that is chosen', () => {
    const changed = analysed((bundle) => (bundle.assumptions = { wheelToCrank: 1.3, wheelToCrankSd: 0 }));
    expect(changed.engineEstimate!.factor).toEqual({ low: 1.3, high: 1.3 });
    const given = sourceOf(airbox);
    const inHp = formatterFor(IMPERIAL);
    const text = sheetOf(given, given.findings.comparisons[0]!, inHp).atTheEngine!;
    expect(text).toContain('hp');
    const shown = inHp.shownValue(given.findings.comparisons[0]!.engineEstimate!.referenceKW.low, 'kW').toFixed(0);
    expect(text).toContain(`about ${shown} to`);
  });

  it('is not made of torque, of what was measured at the engine, nor of an answer that is withheld', () => {
    expect(analysed((bundle) => (bundle.programme.metric = 'meanTorque')).engineEstimate).toBeNull();
    expect(analysed((bundle) => (bundle.cell!.powerAt = 'crank')).engineEstimate).toBeNull();
    const withheld = sourceOf(cooler).findings.comparisons.filter(({ verdict }) => verdict.power === 'withheld');
    expect(withheld.length).toBeGreaterThan(0);
    for (const { engineEstimate } of withheld) expect(engineEstimate).toBeNull();
  });
});

describe('the public version', () => {
  it.each(DAYS)('of $name says only what may be said, and nothing from inside the house', (day) => {
    const given = sourceOf(day);
    for (const comparison of given.findings.comparisons) {
      const sheet = sheetOf(given, comparison, PLAIN_FORMATTER);
      const version = publicVersionOf(given, comparison, PLAIN_FORMATTER);
      expect(version.says).toEqual(sheet.mayBeSaid.map(({ short }) => `${short}.`));
      const all = [version.title, version.car, ...version.says, ...version.why, version.how, ...version.notMeasured, version.law].join(
        '\n',
      );
      expect(all).not.toMatch(/undefined|NaN|null|\[object/);
      const { programme, setups, cell } = given.bundle;
      const inside = [
        programme.question,
        ...(programme.claims ?? []).flatMap(({ by, text }) => [by, text]),
        cell?.name,
        ...setups.flatMap(({ state }) => [state['tune'], state['fuel']]),
      ].filter((text): text is string => typeof text === 'string' && text.length > 3 && text !== given.bundle.vehicle.name);
      for (const text of inside) expect(all).not.toContain(text);
      expect(all.includes('On the road: not measured.')).toBe(cell?.kind !== 'road');
      expect(version.law).toContain('law of the place');
      if (version.says.length === 0) expect(version.why).toEqual([]);
      for (const text of version.why) if (/The shape/.test(text)) expect(text).toContain('never a proof');
    }
  });
});

describe('checking again', () => {
  const comparisons = () => sourceOf(airbox).findings.comparisons;

  it('finds nothing where nothing differs, and every figure that does, to six figures', () => {
    const fixed = comparisons();
    expect(differingFigures(fixed, JSON.parse(JSON.stringify(fixed)) as Comparison[])).toEqual([]);
    const moved = fixed.map((one) => ({ ...one, levelled: { ...one.levelled!, pct: one.levelled!.pct * (1 + 2e-5) } }));
    expect(differingFigures(fixed, moved).map(({ where }) => where)).toEqual(['B against A, levelled']);
    const within = fixed.map((one) => ({ ...one, levelled: { ...one.levelled!, pct: one.levelled!.pct * (1 + 1e-9) } }));
    expect(differingFigures(fixed, within)).toEqual([]);
    const answered = fixed.map((one) => ({
      ...one,
      answers: one.answers.map((answer) => ({ ...answer, answer: 'not-resolved' as const })),
    }));
    expect(differingFigures(fixed, answered)).toHaveLength(fixed[0]!.answers.length);
    expect(differingFigures(fixed, [])).toEqual([{ where: 'B against A', fixed: 'compared', now: 'not compared' }]);
    expect(differingFigures([], fixed)).toHaveLength(1);
  });

  it('names what has changed in words, whatever the input', () => {
    for (const part of ['programme', 'vehicle', 'cells', 'setups', 'pulls', 'condition', 'days', 'assumptions', 'channels'])
      expect(inputWord(`gezeit.json#${part}`)).not.toContain('#');
    expect(inputWord('evidence/duct.json')).toBe('the bench’s result duct');
    expect(inputWord('logs/p01-ecu.csv')).toBe('the log logs/p01-ecu.csv');
  });
});
