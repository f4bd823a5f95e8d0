import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';

const from = (path: string) => fileURLToPath(new URL(`../../${path}`, import.meta.url));
const read = (path: string) => readFileSync(from(path), 'utf8');

/** Everything that the sources say, by file. */
const sources = ['core/src', 'server/src', 'web/src'].flatMap((root) =>
  readdirSync(from(root), { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.(ts|vue)$/.test(entry.name))
    .map(
      (entry) =>
        [`${entry.parentPath.slice(from('').length)}/${entry.name}`, readFileSync(`${entry.parentPath}/${entry.name}`, 'utf8')] as const,
    ),
);
/** What a pattern finds, with where it stands. */
const cited = (pattern: RegExp) => sources.flatMap(([file, text]) => [...text.matchAll(pattern)].map((match) => ({ file, match })));

describe('what is cited', () => {
  const formulaIds = () => new Set([...read('docs/formulas.md').matchAll(/\*\*([a-j]\d+[a-z]?)(?=[ *])/g)].map(([, id]) => id));

  it('every formula stands in docs/formulas.md under its id', () => {
    const known = formulaIds();
    expect(known.size).toBeGreaterThan(60);
    const list = cited(/formulas? ((?:[a-j]\d+[a-z]?(?:, | and )?)+)/g).flatMap(({ file, match }) =>
      [...match[1]!.matchAll(/[a-j]\d+[a-z]?/g)].map(([id]) => ({ file, id })),
    );
    expect(list.length).toBeGreaterThan(80);
    expect(list.filter(({ id }) => !known.has(id))).toEqual([]);
  });

  it('every formula that the bench shows stands there as well', () => {
    const known = formulaIds();
    const ids = [...read('core/src/bench/formula-texts.ts').matchAll(/^ {2}([a-j]\d+[a-z]?): \{/gm)].map(([, id]) => id!);
    expect(ids.length).toBeGreaterThan(20);
    expect(ids.filter((id) => !known.has(id))).toEqual([]);
  });

  it('every section of the method stands in docs/method.md', () => {
    const sections = new Set([...read('docs/method.md').matchAll(/^#{2,3} (\d(?:\.\d)?)\.? /gm)].map(([, number]) => number));
    expect(sections.size).toBeGreaterThan(7);
    const list = cited(/method(?: of section|,? section) (\d(?:\.\d)?)/g).map(({ file, match }) => ({ file, section: match[1]! }));
    expect(list.length).toBeGreaterThan(4);
    expect(list.filter(({ section }) => !sections.has(section))).toEqual([]);
  });

  it('every document that a source names is there', () => {
    const list = cited(/docs\/[\w-]+\.md/g).map(({ file, match }) => ({ file, path: match[0] }));
    expect(list.length).toBeGreaterThan(2);
    const there = new Set(readdirSync(from('docs')).map((name) => `docs/${name}`));
    expect(list.filter(({ path }) => !there.has(path))).toEqual([]);
  });
});
