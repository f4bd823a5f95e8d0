import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { runVectors, type Vector } from './vectors/runner.js';

const { vectors } = JSON.parse(readFileSync(new URL('./data/formula-vectors.json', import.meta.url), 'utf8')) as { vectors: Vector[] };

describe('formula check values', () => {
  it('of every built section agree', () => {
    const report = runVectors(vectors);
    expect(report.failures).toEqual([]);
    expect(report.passed).toBe(vectors.filter(({ section }) => 'abcdefghikl'.includes(section)).length);
  });

  it('a wrong value fails, and so does a built section without a formula', () => {
    const [first] = vectors;
    const wrong = { ...first!, expected: { y: { value: 1 } } };
    const unknown = { ...first!, formula: 'a99' };
    expect(runVectors([wrong, unknown]).failures.length).toBe(2);
    expect(runVectors([{ ...first!, section: 'z', formula: 'z1' }])).toMatchObject({
      passed: 0,
      notBuiltCount: 1,
      notBuiltSections: ['z'],
    });
  });
});
