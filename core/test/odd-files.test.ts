import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readingOf, readLoose } from '../src/index.js';
import expected from './data/reading/odd/expected.json' with { type: 'json' };

/** What an odd file must be taken for: its columns by their header, or that it is refused. Written down before any of them was read. */
interface Expected {
  refused?: boolean;
  columns?: Record<string, string | null>;
  /** Least and greatest of a column, in the unit kept inside: nothing may lie beyond. */
  values?: Record<string, [number, number]>;
  preamble?: string[];
  /** Over engine speed instead of time. */
  curve?: boolean;
}

const FOLDER = new URL('./data/reading/odd/', import.meta.url);
const FILES = Object.entries(expected as unknown as Record<string, Expected>);
/** The highest engine speed of every file, rpm, and what may be about it. */
const [TOP_RPM, ABOUT_RPM] = [6500, 200];

const read = (name: string) => readLoose({ file: name, bytes: readFileSync(new URL(name, FOLDER)), sha256: '' }, {});

it('at least sixty of them are kept, and each is named', () => {
  const there = readdirSync(FOLDER).filter((name) => name !== 'expected.json');
  expect(there.sort()).toEqual(FILES.map(([name]) => name).sort());
  expect(there.length).toBeGreaterThanOrEqual(60);
});

describe.each(FILES)('%s', (name, { refused, columns = {}, values = {}, preamble = [], curve = false }) => {
  const { report } = read(name);

  if (refused) {
    it('is refused, with what to do', () => {
      expect(report.columns).toEqual([]);
      expect(report.problems).toHaveLength(1);
      expect(report.problems[0]!.todo).not.toBe('');
      expect(readingOf([read(name)]).unmatched.map(({ file }) => file)).toEqual([name]);
    });
    return;
  }

  it('is taken for what it is', () => {
    const taken = Object.fromEntries(report.columns.map(({ header, quantity }) => [header, quantity]));
    const asked = Object.keys(columns).map((header) => [header, taken[header]]);
    expect(Object.fromEntries(asked)).toEqual(columns);
    expect(report.preamble.map(({ quantity }) => quantity)).toEqual(expect.arrayContaining(preamble));
    for (const [header, [low, high]] of Object.entries(values)) {
      const column = report.columns.find((entry) => entry.header === header)!;
      expect(column.low).toBeGreaterThan(low);
      expect(column.high).toBeLessThan(high);
    }
  });

  it('shows its sweep', () => {
    if (curve) {
      expect(report.time).toBeNull();
      return;
    }
    expect(report.sweeps.length).toBeGreaterThan(0);
    for (const { startS, endS, toRpm } of report.sweeps) {
      expect(Math.abs(toRpm! - TOP_RPM)).toBeLessThan(ABOUT_RPM);
      expect(endS - startS).toBeGreaterThan(4.5);
      expect(endS - startS).toBeLessThan(7.5);
    }
  });
});
