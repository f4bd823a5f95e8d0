import { describe, expect, it } from 'vitest';
import { checkDay } from '../../bench/check-days.js';
import { analyseMeasured, measurePulls, steadyCooler, type LogTable } from '../src/index.js';
import { recoveryOf } from '../src/pull/recovery.js';
import { Random } from '../src/simulate/index.js';

describe('how a temperature falls back', () => {
  const course = (tauS: number, fallK: number, endK: number, lastsS: number, noiseK: number, random: Random) => {
    const timeS = Array.from({ length: Math.floor(lastsS / 3) }, (_, i) => 4 + 3 * i);
    return [timeS, timeS.map((at) => endK + fallK * Math.exp(-at / tauS) + random.normal(noiseK))] as const;
  };

  it('holds its true time constant on nine of ten at least', () => {
    let [told, held] = [0, 0];
    for (let seed = 1; seed <= 200; seed += 1) {
      const random = new Random(seed);
      const tauS = random.between(20, 200);
      const [timeS, above] = course(tauS, random.between(8, 30), random.between(2, 10), random.between(150, 600), 0.15, random);
      const found = recoveryOf(timeS, above);
      if (!found) continue;
      told += 1;
      if (found.lowS <= tauS && tauS <= found.highS) held += 1;
    }
    expect(told).toBeGreaterThan(150);
    expect(held / told).toBeGreaterThan(0.9);
  });

  it('is not told from a minute that is too short, from few readings, or from what hardly falls', () => {
    const random = new Random(3);
    expect(recoveryOf(...course(80, 20, 5, 40, 0.1, random))).toBeNull();
    expect(recoveryOf([0, 100, 200], [30, 20, 15])).toBeNull();
    expect(recoveryOf(...course(80, 1, 5, 300, 0.1, random))).toBeNull();
    expect(recoveryOf(...course(3000, 20, 5, 120, 0.15, random))).toBeNull();
  });
});

describe('the heat of pulls', () => {
  it('is start, peak and rise, by time and by work, above ambient', () => {
    const { bundle, tables } = checkDay(8001, { order: 'AABB', isBoosted: true });
    const { pulls, comparisons } = analyseMeasured(bundle, measurePulls(bundle, tables)).findings;
    for (const { heat, startS, endS, startIntakeAirC, intakeAirRiseK, meanPowerUncorrectedKW } of pulls) {
      expect(heat!.startC).toBe(startIntakeAirC);
      expect(heat!.riseK).toBe(intakeAirRiseK);
      expect(heat!.risePerS!).toBeCloseTo(heat!.riseK / (endS! - startS!), 9);
      expect(heat!.peakC).toBeGreaterThanOrEqual(heat!.startC);
      expect(heat!.peakAboveAmbientK! - heat!.startAboveAmbientK!).toBeCloseTo(heat!.peakC - heat!.startC, 9);
      // The mean over the band is above that of the whole sweep.
      expect(heat!.riseK / heat!.risePerWheelKJ!).toBeLessThan(meanPowerUncorrectedKW! * (endS! - startS!));
    }
    const rise = comparisons[0]!.riseAtEqualStartK!;
    expect(rise.low).toBeLessThan(0);
    expect(rise.high).toBeGreaterThan(0);
  });

  it('draws the temperatures between the pulls and tells the recovery where one record holds the whole day', () => {
    const day = checkDay(8002, { order: 'AABB', isBoosted: true, apartMin: () => 6 });
    const whole = joined(day);
    const { pulls } = analyseMeasured(whole.bundle, measurePulls(whole.bundle, whole.tables)).findings;
    const recoveries = pulls.flatMap(({ heat }) => heat?.recovery ?? []);
    expect(recoveries.length).toBeGreaterThanOrEqual(pulls.length - 2);
    for (const { tauS, lowS, highS } of recoveries) {
      expect(lowS).toBeLessThanOrEqual(90);
      expect(highS).toBeGreaterThanOrEqual(90);
      expect(tauS).toBeGreaterThan(60);
    }
    const measured = measurePulls(whole.bundle, whole.tables);
    measured.slice(0, -1).forEach(({ heat }, i) => {
      const course = heat.intakeAirTemperature!;
      const next = Date.parse(whole.bundle.pulls[i + 1]!.startedAt);
      expect(course.atMs.at(-1)!).toBeLessThan(next);
      expect(next - course.atMs.at(-1)!).toBeLessThan(60_000);
      expect(course.atMs).toEqual(course.atMs.toSorted((a, b) => a - b));
      expect(course.atMs.length).toBeLessThan(260);
    });
  });
});

/** The engine control's records of a day as one file, its intake air falling back with 90 s between the pulls. */
function joined({ bundle, tables }: ReturnType<typeof checkDay>): { bundle: typeof bundle; tables: Map<string, LogTable> } {
  const random = new Random(5);
  const beginMs = Date.parse(bundle.pulls[0]!.startedAt);
  const timeS: number[] = [];
  const columns = tables.get(bundle.pulls[0]!.logs[0]!.file)!.columns.map((column) => ({ ...column, values: [] as number[] }));
  const air = columns.findIndex(({ quantity }) => quantity === 'intakeAirTemperature');
  const all = new Map(tables);
  bundle.pulls.forEach((pull, k) => {
    const table = tables.get(pull.logs[0]!.file)!;
    const sweep = measurePulls(bundle, tables, [pull])[0]!.curve!;
    const shift = (Date.parse(pull.startedAt) - beginMs) / 1000 - sweep.startS;
    table.timeS!.forEach((at, i) => {
      timeS.push(at + shift);
      table.columns.forEach((column, c) => columns[c]!.values.push(column.values[i]!));
    });
    const next = bundle.pulls[k + 1];
    const last = timeS.at(-1)!;
    const until = next ? (Date.parse(next.startedAt) - beginMs) / 1000 - 12 : last + 300;
    const peak = columns[air]!.values.filter(Number.isFinite).at(-1)!;
    const rest = pull.ambient!.temperatureC! + 8;
    for (let at = last + 1; at < until; at += 1) {
      timeS.push(at);
      columns.forEach((column, c) =>
        column.values.push(
          c === air
            ? rest + (peak - rest) * Math.exp(-(at - last) / 90) + random.normal(0.1)
            : column.quantity === 'engineSpeed'
              ? 850
              : column.quantity === 'pedal' || column.quantity === 'throttle'
                ? 0
                : Number.NaN,
        ),
      );
    }
    all.delete(pull.logs[0]!.file);
  });
  const file = 'logs/day-ecu.csv';
  const first = tables.get(bundle.pulls[0]!.logs[0]!.file)!;
  all.set(file, {
    ...first,
    file,
    timeS: Float64Array.from(timeS),
    columns: columns.map((column) => ({ ...column, values: Float64Array.from(column.values) })),
    rowCount: timeS.length,
  });
  const pulls = bundle.pulls.map((pull) => ({ ...pull, logs: [{ file, device: 'ecu' }, ...pull.logs.slice(1)] }));
  return { bundle: { ...bundle, pulls }, tables: all };
}

describe('a cooler at steady load', () => {
  const mean = (value: number, half = 0) => ({ value, low: value - half, high: value + half });

  it('has the effectiveness and the heat of its means, and none where nothing is to be cooled', () => {
    const found = steadyCooler(mean(120), mean(48), mean(20), mean(0.1), { temperatureK: 0, flowShare: 0 })!;
    expect(found.effectiveness).toEqual({ value: 0.72, low: 0.72, high: 0.72 });
    expect(found.heatW!.value).toBeCloseTo(0.1 * 1005 * 72, 6);
    expect(steadyCooler(mean(120), mean(48), mean(20), null, { temperatureK: 0, flowShare: 0 })!.heatW).toBeNull();
    expect(steadyCooler(mean(20), mean(20), mean(20), null, { temperatureK: 1, flowShare: 0 })).toBeNull();
  });

  it('holds the truth in 95 % where means scatter and sensors are off', () => {
    const random = new Random(77);
    const rounds = 2000;
    let [share, heat] = [0, 0];
    for (let i = 0; i < rounds; i += 1) {
      const [inC, coldC, flow] = [random.between(80, 160), random.between(0, 40), random.between(0.04, 0.2)];
      const outC = coldC + random.between(0.15, 0.5) * (inC - coldC);
      // Half widths are those at 95 %: 1.96 standard deviations.
      const read = (value: number, half: number, off: number) => mean(value + random.normal(half / 1.96) + random.normal(off / 1.96), half);
      const found = steadyCooler(read(inC, 1.2, 1.5), read(outC, 0.8, 1.5), read(coldC, 0.3, 1.5), read(flow, 0.001, 0.03 * flow), {
        temperatureK: 1.5,
        flowShare: 0.03,
      })!;
      const truth = (inC - outC) / (inC - coldC);
      if (found.effectiveness.low <= truth && truth <= found.effectiveness.high) share += 1;
      const watt = flow * 1005 * (inC - outC);
      if (found.heatW!.low <= watt && watt <= found.heatW!.high) heat += 1;
    }
    for (const held of [share, heat]) expect(Math.abs(held / rounds - 0.95)).toBeLessThan(0.015);
  });
});
