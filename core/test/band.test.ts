import { describe, expect, it } from 'vitest';
import { bandMean, bandPeak, COVER_TOLERANCE_RPM, onBand, smoothed, type Band } from '../src/pull/band.js';
import type { PullCurve } from '../src/pull/curve.js';
import { GRID_STEP_RPM, gridOf, resample } from '../src/pull/resample.js';
import type { SpeedMap } from '../src/pull/speed-map.js';
import { Random } from '../src/simulate/index.js';
import type { Trace } from '../src/pull/traces.js';

// Channels over engine speed against what calculus says of them.

/** A curve from one engine speed to another, with channels by a formula. */
function curveOf(fromRpm: number, toRpm: number, channels: Record<string, (rpm: number) => number>): PullCurve {
  const gridRpm = Float64Array.from({ length: Math.round((toRpm - fromRpm) / GRID_STEP_RPM) + 1 }, (_, i) => fromRpm + i * GRID_STEP_RPM);
  return {
    id: 'p',
    startS: 0,
    endS: 8,
    gridRpm,
    gridTimeS: gridRpm.map((rpm) => (rpm - fromRpm) / 500),
    channels: new Map(Object.entries(channels).map(([key, of]) => [key, gridRpm.map(of)])),
    start: null as never,
    air: null,
    spikes: [],
    faults: [],
  } as unknown as PullCurve;
}

const BANDS: Band[] = [
  [3000, 6000],
  [2000, 6500],
  [3010, 5990],
  [2987.5, 4123.4],
  [4000, 4025],
  [4000, 4010],
];

describe('a mean over the band', () => {
  it.each(BANDS)('from %s to %s rpm is that of a constant, of a line and of a sum of them', (...band) => {
    const [low, high] = band;
    const curve = curveOf(2000, 6500, {
      power: () => 90_000,
      torque: (rpm) => 100 + 0.02 * rpm,
      airMassFlow: (rpm) => 3 * (100 + 0.02 * rpm) - 90_000,
    });
    const line = 100 + 0.01 * (low + high);
    expect(bandMean(curve, 'power', band)).toBeCloseTo(90_000, 6);
    expect(bandMean(curve, 'torque', band)).toBeCloseTo(line, 8);
    expect(bandMean(curve, 'airMassFlow', band)).toBeCloseTo(3 * line - 90_000, 6);
  });

  it('of a curve is its integral over the width, to the fourth figure; through a logarithm that of the logarithm', () => {
    for (const band of BANDS) {
      const [low, high] = band;
      const curve = curveOf(2000, 6500, { power: (rpm) => Math.exp(rpm / 3000) });
      const integral = (3000 * (Math.exp(high / 3000) - Math.exp(low / 3000))) / (high - low);
      expect(bandMean(curve, 'power', band)! / integral).toBeCloseTo(1, 4);
      expect(bandMean(curve, 'power', band, Math.log)).toBeCloseTo((low + high) / 6000, 4);
    }
  });

  it('is the mean of its halves, weighted by their widths', () => {
    const random = new Random(5);
    for (let i = 0; i < 50; i += 1) {
      const [low, middle, high] = [2200, 3000 + 25 * Math.floor(random.between(0, 40)), 6000];
      const curve = curveOf(2000, 6500, { power: (rpm) => 5e4 + 20 * rpm + 3000 * Math.sin(rpm / 170) });
      const parts =
        (bandMean(curve, 'power', [low, middle])! * (middle - low) + bandMean(curve, 'power', [middle, high])! * (high - middle)) /
        (high - low);
      expect(bandMean(curve, 'power', [low, high])).toBeCloseTo(parts, 5);
    }
  });

  it('is none of a channel that is not there, that has a hole, or that ends beyond the tolerance', () => {
    const curve = curveOf(3000, 6000, { power: () => 1, torque: (rpm) => (rpm === 4500 ? Number.NaN : 1) });
    expect(bandMean(curve, 'lambda', [3500, 5500])).toBeNull();
    expect(bandMean(curve, 'torque', [3500, 5500])).toBeNull();
    expect(bandMean(curve, 'torque', [4600, 5500])).toBe(1);
    for (const [band, covered] of [
      [[3000 - COVER_TOLERANCE_RPM, 6000 + COVER_TOLERANCE_RPM], true],
      [[3000 - COVER_TOLERANCE_RPM - 1, 6000], false],
      [[3000, 6000 + COVER_TOLERANCE_RPM + 1], false],
    ] as [Band, boolean][])
      expect(bandMean(curve, 'power', band) !== null, band.join(' to ')).toBe(covered);
  });
});

describe('a channel on the band', () => {
  it('is asked for again and again, of more bands than are kept, and is the same each time as the first', () => {
    const curve = curveOf(2000, 6500, { power: (rpm) => 5e4 + 20 * rpm, torque: (rpm) => rpm / 40 });
    const bands = Array.from({ length: 30 }, (_, i): Band => [2000 + 25 * i, 5000 + 30 * i]);
    const ask = (band: Band) => ['power', 'torque'].map((key) => [...onBand(curve, curve.channels.get(key)!, band)]);
    const first = bands.map(ask);
    for (const order of [bands, bands.toReversed(), bands.concat(bands)])
      for (const band of order) expect(ask([band[0], band[1]])).toEqual(first[bands.findIndex(([low]) => low === band[0])]);
  });

  it('of two curves that look alike are two, and a channel that takes another’s place is read anew', () => {
    const [a, b] = [curveOf(2000, 6500, { power: () => 1 }), curveOf(2000, 6500, { power: () => 2 })];
    expect(bandMean(a, 'power', [3000, 5000])).toBe(1);
    expect(bandMean(b, 'power', [3000, 5000])).toBe(2);
    a.channels.set(
      'power',
      b.channels.get('power')!.map((value) => 10 * value),
    );
    expect(bandMean(a, 'power', [3000, 5000])).toBe(20);
  });

  it('has a point every 25 rpm and one at the very end', () => {
    const curve = curveOf(2000, 6500, { power: (rpm) => rpm });
    for (const band of BANDS) {
      const values = onBand(curve, curve.channels.get('power')!, band);
      expect(values[0]).toBeCloseTo(band[0], 9);
      expect(values.at(-1)).toBeCloseTo(band[1], 9);
      values.slice(1, -1).forEach((value, i) => expect(value - values[i]!).toBeCloseTo(GRID_STEP_RPM, 6));
    }
  });
});

describe('a smoothed curve', () => {
  it.each([100, 200, 400])('over %s rpm keeps any parabola as it is, and takes most of the noise from it', (windowRpm) => {
    const random = new Random(windowRpm);
    const parabola = Float64Array.from({ length: 181 }, (_, i) => 3 + 0.4 * i - 0.002 * i * i);
    smoothed(parabola, windowRpm).forEach((value, i) => expect(value).toBeCloseTo(parabola[i]!, 9));
    const noise = Float64Array.from({ length: 4000 }, () => random.normal());
    const half = Math.round(windowRpm / 50);
    const inner = smoothed(noise, windowRpm).slice(half, -half);
    const sd = Math.sqrt(inner.reduce((sum, value) => sum + value * value, 0) / inner.length);
    // Savitzky and Golay: the variance that is left is the middle weight.
    const whole = (2 * half + 3) * (2 * half + 1) * (2 * half - 1);
    expect(sd).toBeCloseTo(Math.sqrt((3 * (3 * half * half + 3 * half - 1)) / whole), 1);
  });

  it('has its peak where the parabola has it, in the band alone', () => {
    const curve = curveOf(2000, 6500, { power: (rpm) => 100_000 - ((rpm - 5200) / 30) ** 2 });
    expect(bandPeak(curve, 'power', [3000, 6000])).toEqual({ value: expect.closeTo(100_000, 6) as number, rpm: 5200 });
    expect(bandPeak(curve, 'power', [3000, 4500])!.rpm).toBe(4500);
    expect(bandPeak(curve, 'power', [5600, 6400])!.rpm).toBe(5600);
    expect(bandPeak(curve, 'torque', [3000, 6000])).toBeNull();
    expect(bandPeak(curve, 'power', [7000, 8000])).toBeNull();
  });
});

describe('a trace on the engine-speed grid', () => {
  /** An engine that gains so many rpm a second. */
  const mapOf = (rpmPerS: number): SpeedMap => ({
    speed: Float64Array.from({ length: 2001 }, (_, i) => 2000 + 2 * i),
    timeS: Float64Array.from({ length: 2001 }, (_, i) => (2 * i) / rpmPerS),
  });
  const traceOf = (rateHz: number, spanS: number, of: (timeS: number) => number, fromS = -1): Trace =>
    ({
      column: null as never,
      timeS: Float64Array.from({ length: Math.floor((spanS + 2) * rateHz) }, (_, i) => fromS + i / rateHz),
      values: Float64Array.from({ length: Math.floor((spanS + 2) * rateHz) }, (_, i) => of(fromS + i / rateHz)),
    }) as Trace;

  it.each([10, 25, 50, 100, 200])('of %s samples a second is the line that it was, at any rate of rise and any offset', (rateHz) => {
    for (const rpmPerS of [200, 400, 900])
      for (const offsetS of [0, 3.21, -7.5]) {
        const map = mapOf(rpmPerS);
        const spanS = 4000 / rpmPerS;
        const grid = gridOf(map);
        const values = resample(
          traceOf(rateHz, spanS, (t) => 10 + 3 * (t - offsetS), offsetS - 1),
          map,
          grid,
          offsetS,
        );
        grid.forEach((rpm, i) => {
          // The ends take half a step: its middle lies a quarter of a step inside.
          const middle = Math.min(6000 - 6.25, Math.max(2000 + 6.25, rpm));
          expect(values[i]!).toBeCloseTo(10 + (3 * (middle - 2000)) / rpmPerS, 5);
        });
      }
  });

  it('is unknown where the trace does not reach', () => {
    const map = mapOf(400);
    const grid = gridOf(map);
    const values = resample(
      traceOf(50, 3, () => 1, 0),
      map,
      grid,
      0,
    );
    const lastKnown = values.findLastIndex(Number.isFinite);
    expect(grid[lastKnown]!).toBeGreaterThan(2000 + 400 * 4.8);
    expect(grid[lastKnown]!).toBeLessThan(2000 + 400 * 5.1);
    expect([...values.slice(lastKnown + 1)].every(Number.isNaN)).toBe(true);
  });
});
