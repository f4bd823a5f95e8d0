import { describe, expect, it } from 'vitest';
import { readingOf, readLoose } from '../src/index.js';

// One file of each of two devices, and nothing else to go by: what passed the speeds alike is one pull, what cannot have been is two.

const IDLE_S = 4;
/** Engine speed through a sweep that takes so long: faster at first, slower at the top. */
const speedAt = (s: number, sweepS: number) => {
  const share = Math.min(1, Math.max(0, (s - IDLE_S) / sweepS));
  const top = 1900 + 4500 * (1.25 * share - 0.25 * share * share);
  return s > IDLE_S + sweepS ? Math.max(1500, top - 900 * (s - IDLE_S - sweepS)) : top;
};

/** A file of a device that logs so often, whose clock began elsewhere and runs at its own rate. */
function log(file: string, column: string, { sweepS, rateHz, startS = 0, clockRate = 1, lagS = 0 }: Spec) {
  const rows = Array.from({ length: Math.ceil((sweepS + 2 * IDLE_S) * rateHz) }, (_, i) => {
    const s = i / rateHz;
    const open = s > IDLE_S && s <= IDLE_S + sweepS;
    return `${(startS + s * clockRate).toFixed(3)},${speedAt(s - lagS, sweepS).toFixed(0)},${(open ? 90 + s : 5).toFixed(1)}`;
  });
  const bytes = new TextEncoder().encode(`Time [s],Engine speed [rpm],${column}\n${rows.join('\n')}\n`);
  return readLoose({ file, bytes, sha256: file }, {});
}
interface Spec {
  sweepS: number;
  rateHz: number;
  startS?: number;
  clockRate?: number;
  lagS?: number;
}
const pulls = (a: Spec, b: Spec) =>
  readingOf([log('dyno.csv', 'Wheel power [kW]', a), log('ecu.csv', 'Throttle position [%]', b)]).pulls.map(({ members }) =>
    members.map(({ file }) => file).sort(),
  );

const SWEEPS_S = [4, 8, 15, 25];
const ONE = [['dyno.csv', 'ecu.csv']];

describe.each(SWEEPS_S)('a sweep of %s s', (sweepS) => {
  it.each([
    ['a logger of 5 Hz', { rateHz: 5 }],
    ['one of 2 Hz', { rateHz: 2 }],
    ['a clock that began at another time', { rateHz: 10, startS: 731 }],
    ['a clock that is 2 per cent fast', { rateHz: 20, clockRate: 1.02 }],
    ['a clock that is 3 per cent slow', { rateHz: 10, clockRate: 0.97 }],
    ['a channel that comes 0.4 s late', { rateHz: 10, lagS: 0.4 }],
  ])('is one pull with %s', (_, other) => {
    expect(pulls({ sweepS, rateHz: 20 }, { sweepS, ...other })).toEqual(ONE);
  });

  it.each([1.5, 2, 3])('is two pulls beside one that took %s times as long', (times) => {
    const both = pulls({ sweepS, rateHz: 20 }, { sweepS: sweepS * times, rateHz: 10 });
    expect(both.sort()).toEqual([['dyno.csv'], ['ecu.csv']]);
  });
});
