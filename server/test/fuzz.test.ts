import { describe, expect, it } from 'vitest';
import { fuzzApi } from '../../bench/fuzz/api.js';
import { fuzzReaders } from '../../bench/fuzz/readers.js';

/** Longer by hand: `npm run bench:fuzz`. */
const SECONDS = 3;
/** And at least so many cases, however slow the machine is. */
const LEAST = 60;
const SEED = 11;
const MOST_MB = 600;
/** By hand it is 5 s; here other tests run beside it. */
const MOST_MS = 15_000;

describe('whatever is handed in', () => {
  it(`for ${SECONDS} s and ${LEAST} cases to every route is answered or refused in words`, { timeout: 120_000 }, async () => {
    const { faults, cases, peakMB } = await fuzzApi(SECONDS, SEED, MOST_MS, LEAST);
    expect(faults).toEqual([]);
    expect(cases).toBeGreaterThanOrEqual(LEAST);
    expect(peakMB).toBeLessThan(MOST_MB);
  });

  it(`for ${SECONDS} s and ${LEAST} cases to every reader is read or refused in words`, { timeout: 120_000 }, () => {
    const { faults, cases } = fuzzReaders(SECONDS, SEED, MOST_MS, LEAST);
    expect(faults).toEqual([]);
    expect(cases).toBeGreaterThanOrEqual(LEAST);
  });
});
