import { readFileSync, readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { bundleSchema, findingsSchema } from '@gezeit/contract';
import { analyse, readLog } from '@gezeit/core';
import { filesOf } from '@gezeit/core/simulate';
import { describe, expect, it } from 'vitest';
import { buildDemo, bundleText, DEMO_PROGRAMMES } from './programmes.js';

const EXPECTED = { 'sealed-airbox': 'gain', 'four-trumpets': 'no-difference', 'water-cooler-and-tune': 'withheld' } as const;

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
      for (const name of ['asRun', 'levelled', 'ownStart', 'sameAir'] as const) {
        const estimate = comparison[name];
        if (name !== 'ownStart') expect(estimate, name).not.toBeNull();
        if (!estimate) continue;
        const pct = 100 * Math.expm1(truth[name]);
        expect(estimate.low, `${comparison.candidate} ${name}`).toBeLessThanOrEqual(pct);
        expect(estimate.high, `${comparison.candidate} ${name}`).toBeGreaterThanOrEqual(pct);
      }
      const cooler = comparison.answers.find(({ unit }) => unit === 'K');
      if (cooler) {
        expect(cooler.answer).toBe('gain');
        expect(cooler.low!).toBeLessThanOrEqual(truth.chargeK);
        expect(cooler.high!).toBeGreaterThanOrEqual(truth.chargeK);
      }
    }
  });
});
