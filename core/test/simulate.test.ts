import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { readLog } from '../src/index.js';
import {
  DIALECTS,
  driveDay,
  driveSweep,
  dynoDevice,
  ecuDevice,
  meanOverSpeed,
  record,
  scheduleOf,
  settledState,
  stand,
  tableOf,
  writeLog,
  type CarState,
  type DaySpec,
  type Engine,
  type PartSet,
  NATURAL_PICKUP,
  STOCK_NATURAL,
  STOCK_TURBO,
  TURBO_ESTATE,
} from '../src/simulate/index.js';

const weather = { temperatureC: 20, pressurePa: 99_500, relativeHumidity: 0.5 };
const no = { powerFactor: 1, boostFactor: 1, mishap: null };
const band = [4400, 6600] as const;
const power = (engine: Engine, parts: PartSet, change: (state: CarState) => void = () => {}, air = weather) => {
  const state = settledState(weather);
  change(state);
  return meanOverSpeed(driveSweep(engine, parts, air, state, no), band, ({ wheelPowerW }) => wheelPowerW);
};
const spec = (seed: number): DaySpec => ({
  seed,
  engine: TURBO_ESTATE,
  setups: { A: STOCK_TURBO, B: STOCK_TURBO },
  schedule: scheduleOf(
    'ABBA',
    () => 5,
    () => 20,
    true,
  ),
  scatter: {
    runToRun: 0.004,
    boostWander: 0.002,
    driftPerHour: 0.005,
    walkAtSwap: 0.001,
    weatherPerHour: { temperatureK: 1, pressurePa: 50, humidity: 0.01 },
  },
  weather,
  oilColdK: 5,
});

describe('the engine', () => {
  it('gives plausible figures for its size', () => {
    expect(power(TURBO_ESTATE, STOCK_TURBO) / 1000).toBeGreaterThan(95);
    expect(power(TURBO_ESTATE, STOCK_TURBO) / 1000).toBeLessThan(145);
    expect(power(NATURAL_PICKUP, STOCK_NATURAL) / 1000).toBeGreaterThan(70);
    expect(power(NATURAL_PICKUP, STOCK_NATURAL) / 1000).toBeLessThan(110);
  });

  it('loses with a hotter start, thicker oil and held-back spark; gains with less restriction', () => {
    for (const [engine, parts] of [
      [TURBO_ESTATE, STOCK_TURBO],
      [NATURAL_PICKUP, STOCK_NATURAL],
    ] as const) {
      const base = power(engine, parts);
      expect(power(engine, parts, (s) => Object.assign(s, { bayC: s.bayC + 15, boxC: s.boxC + 15, coreC: s.coreC + 15 }))).toBeLessThan(
        base,
      );
      expect(power(engine, parts, (s) => (s.oilC -= 25))).toBeLessThan(base);
      expect(power(engine, parts, (s) => (s.learnedRetardDeg = 3))).toBeLessThan(base);
      expect(
        power(engine, { ...parts, inlet: parts.inlet.map((section) => ({ ...section, areaM2: section.areaM2 * 1.3 })) }),
      ).toBeGreaterThan(base);
    }
  });

  it('a naturally aspirated engine follows the barometer, one with absolute boost control hardly', () => {
    const thin = { ...weather, pressurePa: weather.pressurePa * 0.95 };
    const loss = (engine: Engine, parts: PartSet) => 1 - power(engine, parts, () => {}, thin) / power(engine, parts);
    expect(loss(NATURAL_PICKUP, STOCK_NATURAL)).toBeGreaterThan(0.04);
    expect(loss(TURBO_ESTATE, STOCK_TURBO)).toBeLessThan(0.02);
  });

  it('is not linear in the start temperature', () => {
    const at = (kelvin: number) =>
      Math.log(
        power(TURBO_ESTATE, STOCK_TURBO, (s) =>
          Object.assign(s, { bayC: s.bayC + kelvin, boxC: s.boxC + kelvin, coreC: s.coreC + kelvin }),
        ),
      );
    const [none, ten, thirty] = [at(0), at(10), at(30)];
    expect(Math.abs((thirty - none) / 30 - (ten - none) / 10) / Math.abs((ten - none) / 10)).toBeGreaterThan(0.01);
  });

  it('heats up in a sweep and cools while it stands; the engine off, the bay heats first', () => {
    const start = settledState(weather);
    const { state } = driveSweep(TURBO_ESTATE, STOCK_TURBO, weather, start, no);
    expect(state.coreC).toBeGreaterThan(start.coreC + 5);
    const rested = stand(state, STOCK_TURBO, weather, 300, 'idle');
    expect(rested.coreC).toBeLessThan(state.coreC);
    expect(stand(state, STOCK_TURBO, weather, 300, 'off').bayC).toBeGreaterThan(rested.bayC);
  });

  it('learns its spark again pull by pull', () => {
    const day = driveDay({
      ...spec(4),
      schedule: scheduleOf(
        'AAAA',
        () => 5,
        () => 20,
        false,
      ).map((pull, i) => ({ ...pull, ecuReset: i === 0 })),
    });
    const retards = day.map(({ startState }) => startState.learnedRetardDeg);
    for (let i = 1; i < retards.length; i += 1) expect(retards[i]!).toBeLessThan(retards[i - 1]!);
  });

  it('every mishap shows in the record', () => {
    const state = settledState(weather);
    const drive = (mishap: NonNullable<Parameters<typeof driveSweep>[4]['mishap']>) =>
      driveSweep(TURBO_ESTATE, STOCK_TURBO, weather, state, { ...no, mishap });
    expect(Math.max(...drive({ kind: 'late-lift', atRpm: 5500 }).instants.map(({ engineSpeedRpm }) => engineSpeedRpm))).toBeLessThan(5600);
    expect(
      drive({ kind: 'throttle-closed', atRpm: 5500 }).instants.some(({ pedalPct, throttlePct }) => pedalPct === 100 && throttlePct < 90),
    ).toBe(true);
    const slip = drive({ kind: 'slip', atRpm: 5000 }).instants.map(
      ({ rollerSpeedMPerS, engineSpeedRpm }) => rollerSpeedMPerS / engineSpeedRpm,
    );
    expect(Math.min(...slip)).toBeLessThan(0.98 * Math.max(...slip));
  });
});

describe('a simulated day', () => {
  it('is the same for the same seed and another for another', () => {
    const mean = (seed: number) => driveDay(spec(seed)).map(({ sweep }) => meanOverSpeed(sweep, band, ({ wheelPowerW }) => wheelPowerW));
    expect(mean(1)).toEqual(mean(1));
    expect(mean(1)).not.toEqual(mean(2));
  });

  it('keeps its schedule: clock, conditioning pulls and swaps', () => {
    const day = driveDay(spec(1));
    expect(day.map(({ setup, kind }) => (kind === 'measured' ? setup : setup.toLowerCase())).join('')).toBe('aAbBBaA');
    for (let i = 1; i < day.length; i += 1) expect(day[i]!.timeH).toBeGreaterThan(day[i - 1]!.timeH);
  });

  it.each(DIALECTS)('written in the dialect %s and read back, it is the same record', (dialect) => {
    const [, pull] = driveDay(spec(2));
    for (const device of [ecuDevice(3600, true), dynoDevice(0)]) {
      const written = record(device, pull!, 9);
      const table = readLog(writeLog(written, dialect), { file: `x-${dialect}` });
      const direct = tableOf(written, 'x');
      expect(table.rowCount).toBe(direct.rowCount);
      expect(table.report.remarks.length).toBe(dialect === 'comma-mark' ? 1 : 0);
      for (const column of direct.columns) {
        const read = table.columns.find(({ quantity }) => quantity === column.quantity)!;
        expect(read, column.name).toBeDefined();
        column.values.forEach((value, i) =>
          Number.isNaN(value) ? expect(read.values[i]).toBeNaN() : expect(read.values[i]).toBeCloseTo(value, 6),
        );
      }
      expect(table.timeS![10]! - table.timeS![0]!).toBeCloseTo(direct.timeS![10]! - direct.timeS![0]!, 3);
    }
  });
});

it('a clock in any dialect runs forward from whatever moment a file begins', () => {
  const [pull] = driveDay(spec(2));
  for (const dialect of DIALECTS)
    for (let i = 0; i < 60; i++) {
      const written = record(ecuDevice(3319 + i * 0.00087, true), pull!, 9);
      const { timeS } = readLog(writeLog(written, dialect), { file: 'x' });
      const { timeS: direct } = tableOf(written, 'x');
      expect(timeS!.length).toBe(direct!.length);
      expect(timeS!.at(-1)! - timeS![0]!).toBeCloseTo(direct!.at(-1)! - direct![0]!, 2);
    }
});

it('the simulator imports nothing of the judgement', () => {
  const folder = fileURLToPath(new URL('../src/simulate', import.meta.url));
  for (const name of readdirSync(folder))
    expect(readFileSync(`${folder}/${name}`, 'utf8'), name).not.toMatch(/from '\.\.\/(judge|findings)/);
});
