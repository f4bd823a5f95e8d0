import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { matchFiles, matchMore, type DeviceFile, type DrivenMoment } from '../src/index.js';

// A file is on its own pull, or somebody is asked: it is never shifted silently to another one.

const DAY = Date.parse('2026-03-04T08:00:00Z');
const PULL_S = 11;

interface MadeDay {
  pulls: DrivenMoment[];
  files: (DeviceFile & { truly: string | null })[];
}

const gapsBetween = (min: number, max: number) => fc.array(fc.integer({ min, max }), { minLength: 3, maxLength: 24, size: 'max' });

/** A day of pulls with irregular gaps; every file is written shortly after its pull, by a clock that is off by one constant. */
const days = fc
  .record({
    // As they come, or as regular as a careful driver makes them.
    gapsS: fc.oneof(gapsBetween(150, 2400), gapsBetween(296, 306)),
    offsetS: fc.oneof(fc.constant(0), fc.constantFrom(-3600, 3600, 86_400, -86_400), fc.integer({ min: -200_000, max: 200_000 })),
    latenessS: fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 24, maxLength: 24 }),
    missing: fc.array(fc.nat(23), { maxLength: 2 }),
    unrecorded: fc.option(fc.nat(23), { nil: null, freq: 6 }),
  })
  .map(({ gapsS, offsetS, latenessS, missing, unrecorded }): MadeDay => {
    let atMs = DAY;
    const driven = gapsS.map((gap, i) => ({ id: `p${String(i + 1).padStart(2, '0')}`, startedMs: (atMs += 1000 * gap) }));
    const files = driven
      .filter((_, i) => !missing.includes(i))
      .map(({ id, startedMs }, i) => ({
        file: `logs/${id}.csv`,
        madeAtMs: startedMs + 1000 * (offsetS + PULL_S + latenessS[i]!),
        lengthS: PULL_S + 5,
        sweepsAtS: [5 - latenessS[i]! / 4],
        truly: unrecorded !== null && driven[unrecorded]?.id === id ? null : id,
      }));
    return { pulls: driven.filter((_, i) => i !== unrecorded), files };
  })
  .filter(({ pulls, files }) => pulls.length >= 2 && files.length >= 2);

const RUNS = { numRuns: 400, seed: 20260305 };

describe('files that come at the end of a day', () => {
  it('are on their own pulls or asked about, whatever is missing and however wrong the clock is', () => {
    let certain = 0;
    fc.assert(
      fc.property(days, ({ pulls, files }) => {
        const { matches, ask, missing } = matchFiles(files, pulls, true);
        expect(matches.map(({ file }) => file).sort()).toEqual(files.map(({ file }) => file).sort());
        if (ask !== null) return;
        certain += 1;
        for (const { file, truly } of files) expect([file, matches.find((match) => match.file === file)!.pull]).toEqual([file, truly]);
        // Nobody needs to be asked only where everything has its file.
        expect(missing).toEqual([]);
        expect(files).toHaveLength(pulls.length);
      }),
      RUNS,
    );
    // And the sure ones are many: asking always would be no answer either.
    expect(certain).toBeGreaterThan(60);
  });

  it('name what is missing when one of many is', () => {
    fc.assert(
      fc.property(days, fc.nat(23), ({ pulls, files }, lost) => {
        const complete = files.filter(({ truly }) => truly !== null);
        fc.pre(complete.length === pulls.length && pulls.length >= 6);
        const without = complete.filter((_, i) => i !== lost % complete.length);
        const result = matchFiles(without, pulls, true);
        expect(result.ask).not.toBeNull();
        const named = pulls[lost % complete.length]!.id;
        // Where the gaps fit twice, that is what is asked.
        if (!/more than one way/.test(result.ask!)) expect(result.missing).toEqual([named]);
      }),
      RUNS,
    );
  });
});

describe('files that come pull by pull', () => {
  it('never move an earlier file to another pull', () => {
    fc.assert(
      fc.property(days, ({ pulls, files }) => {
        const whole = files.filter(({ truly }) => truly !== null);
        fc.pre(whole.length >= 5);
        const half = whole.slice(0, 4);
        const first = matchFiles(half, pulls.slice(0, 1 + pulls.findIndex(({ id }) => id === half.at(-1)!.truly)), false);
        fc.pre(first.ask === null && first.offsetS !== null);
        const more = matchMore(whole.slice(4), pulls, first.matches, first.offsetS!);
        for (const { file, pull } of [...first.matches, ...more])
          if (pull !== null) expect([file, pull]).toEqual([file, files.find((made) => made.file === file)!.truly]);
      }),
      RUNS,
    );
  });
});
