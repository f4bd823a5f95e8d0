import { readFileSync, readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { bundleSchema, evidenceSchema, findingsSchema, type Answer, type Bundle, type Evidence } from '@gezeit/contract';
import { analyse, budgetConditions, gainAtMost, instrumentById, measure, programmeGaps, readLog, restrictionBudget } from '@gezeit/core';
import { filesOf, sectionDrop, type PartSet } from '@gezeit/core/simulate';
import { describe, expect, it } from 'vitest';
import { evidenceText, PLANNED_PROGRAMMES } from './planned.js';
import type { DemoProgramme } from './demo-programme.js';
import { buildDemo, bundleText, DEMO_PROGRAMMES } from './programmes.js';

const EXPECTED = {
  'sealed-airbox': 'gain',
  'four-trumpets': 'no-difference',
  'water-cooler-and-fuel': 'withheld',
  'runners-and-map': 'withheld',
  'twin-mouth': 'gain',
  // Power is not measured on the airfield.
  'airfield-feed': 'not-resolved',
} as const;

describe.each(DEMO_PROGRAMMES)('demo $folder', (programme) => {
  const folder = new URL(`./bundles/${programme.folder}/`, import.meta.url);
  const text = readFileSync(new URL('gezeit.json', folder), 'utf8');
  const bundle = bundleSchema.parse(JSON.parse(text));
  const files = readdirSync(fileURLToPath(new URL('logs/', folder))).map((name) => `logs/${name}`);
  const { simulated, truths } = buildDemo(programme);
  const tables = new Map(files.map((file) => [file, readLog(readFileSync(new URL(file, folder)), { file })]));
  const { findings } = analyse(bundle, tables);

  it('is what the generator writes from its fixed seed', () => {
    expect(text).toBe(bundleText(simulated.bundle));
    const written = filesOf(simulated);
    expect([...written.keys()].sort()).toEqual(files.sort());
    for (const [file, bytes] of written) expect(readFileSync(new URL(file, folder)).equals(bytes), file).toBe(true);
  });

  it('gets the right verdict for every candidate, in findings that parse', () => {
    expect(() => findingsSchema.parse(findings)).not.toThrow();
    expect(findings.comparisons.length).toBe(truths.size);
    for (const { verdict } of findings.comparisons) expect(verdict.power).toBe(EXPECTED[programme.folder as keyof typeof EXPECTED]);
  });

  it('holds the truth in the interval of every estimate', () => {
    for (const comparison of findings.comparisons) {
      const truth = truths.get(comparison.candidate)!;
      if (programme.spec.road) expect(comparison.asRun).toBeNull();
      for (const name of programme.spec.road ? [] : (['asRun', 'levelled', 'ownStart', 'sameAir'] as const)) {
        const estimate = comparison[name];
        if (name !== 'ownStart') expect(estimate, name).not.toBeNull();
        if (!estimate) continue;
        const pct = 100 * Math.expm1(truth[name]);
        expect(estimate.low, `${comparison.candidate} ${name}`).toBeLessThanOrEqual(pct);
        expect(estimate.high, `${comparison.candidate} ${name}`).toBeGreaterThanOrEqual(pct);
      }
      const restriction = comparison.answers.find(({ kind }) => kind === 'less-restriction');
      if (restriction) expectRestriction(programme, comparison.candidate, restriction);
      const cooler = comparison.answers.find(({ unit }) => unit === 'K');
      if (cooler) {
        expect(cooler.answer).toBe('gain');
        expect(cooler.low!).toBeLessThanOrEqual(truth.chargeK);
        expect(cooler.high!).toBeGreaterThanOrEqual(truth.chargeK);
      }
    }
  });
});

/** The change of a section's drop at the reference's flow, as the simulator's parts truly have it. */
function expectRestriction({ spec }: DemoProgramme, candidate: string, { why, answer, low, high, said }: Answer): void {
  const { section, atFlowKgS } = said['why']![0]!.values as { section: string; atFlowKgS: number };
  // What opens with engine speed is open where the mean flow of the band lies.
  const opened = (part: PartSet['inlet'][number]) => ({ ...part, areaM2: part.opens?.areaM2 ?? part.areaM2 });
  const drop = (setup: string) =>
    sectionDrop(opened(spec.setups[setup]!.inlet.find(({ name }) => name === section)!), atFlowKgS, {
      temperatureC: 25,
      pressurePa: 100_000,
      relativeHumidity: 0,
    });
  const pct = 100 * (drop(candidate) / drop('A') - 1);
  expect(answer).toBe(pct < 0 ? 'gain' : 'loss');
  expect(low!, why).toBeLessThanOrEqual(pct);
  expect(high!, why).toBeGreaterThanOrEqual(pct);
}

function evidenceIn(folder: string): Map<string, string> {
  const url = new URL(`./bundles/${folder}/evidence/`, import.meta.url);
  return new Map(readdirSync(fileURLToPath(url)).map((name) => [name, readFileSync(new URL(name, url), 'utf8')]));
}

function expectEvidence(folder: string, evidence: readonly Evidence[]): void {
  const written = evidenceIn(folder);
  expect([...written.keys()].sort()).toEqual(evidence.map(({ id }) => `${id}.json`).sort());
  for (const entry of evidence) {
    expect(written.get(`${entry.id}.json`)).toBe(evidenceText(entry));
    evidenceSchema.parse(entry);
    // Read again from its inputs it says the same.
    expect(measure(instrumentById(entry.instrument)!, entry.inputs).reading!.sentence).toBe(entry.sentence);
  }
}

const conditionsOf = (bundle: Bundle) =>
  budgetConditions(bundle.bench!.inputs['air-demand']!, bundle.vehicle.aspiration, bundle.bench!.budgetRpm!)!;

describe('the airbox on the bench', () => {
  const airbox = DEMO_PROGRAMMES.find(({ folder }) => folder === 'sealed-airbox')!;
  const folder = new URL('./bundles/sealed-airbox/', import.meta.url);
  const bundle = bundleSchema.parse(JSON.parse(readFileSync(new URL('gezeit.json', folder), 'utf8')));
  const tables = new Map(
    bundle.pulls.flatMap(({ logs }) => logs.map(({ file }) => [file, readLog(readFileSync(new URL(file, folder)), { file })] as const)),
  );
  const { findings } = analyse(bundle, tables);
  const conditions = conditionsOf(bundle);
  const budgets = bundle.setups.map((setup) => restrictionBudget(setup, conditions, findings));

  it('names the section as the worst that the simulator’s truth does, for both setups', () => {
    for (const budget of budgets) {
      const truth = airbox.spec.setups[budget.setup]!.inlet.map((section) => ({
        name: section.name,
        dropPa: sectionDrop(section, conditions.massFlowKgS, {
          temperatureC: conditions.ambientC,
          pressurePa: conditions.ambientPa,
          relativeHumidity: 0,
        }),
      }));
      const worst = truth.reduce((a, b) => (b.dropPa > a.dropPa ? b : a));
      expect(budget.worst!.section.name).toBe(worst.name);
      for (const { name, dropPa } of truth) {
        const found = budget.sections.find(({ section }) => section.name === name)!;
        expect(found.section.source).not.toBe('geometry');
        expect(Math.abs(found.dropPa! / dropPa - 1), `${budget.setup} ${name}`).toBeLessThan(0.04);
      }
    }
  });

  it('says that the boost held leaves the claim to other causes', () => {
    const { candidate } = gainAtMost(budgets[0]!, budgets[1]!, conditions)!;
    expect(candidate!.likelyPct).toBeGreaterThan(0.1);
    expect(candidate!.likelyPct).toBeLessThan(1);
  });

  it('keeps evidence as the generator writes it', () => expectEvidence('sealed-airbox', airbox.bench!.evidence));
});

describe.each(PLANNED_PROGRAMMES)('demo $folder', ({ folder, bundle, evidence }) => {
  const text = readFileSync(new URL(`./bundles/${folder}/gezeit.json`, import.meta.url), 'utf8');

  it('is what the generator writes, asked whole, with its path and nothing run', () => {
    expect(text).toBe(bundleText(bundle));
    const read = bundleSchema.parse(JSON.parse(text));
    expect(read.pulls).toEqual([]);
    expect(programmeGaps(read)).toEqual([]);
    for (const setup of read.setups) {
      const budget = restrictionBudget(setup, conditionsOf(read), null);
      expect(budget.sections.every(({ dropPa }) => dropPa !== null)).toBe(true);
    }
  });

  it('keeps evidence as the generator writes it', () => expectEvidence(folder, evidence));
});
