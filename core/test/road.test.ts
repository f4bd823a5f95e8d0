import type { Bundle } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { analyseMeasured, measurePulls } from '../src/index.js';
import {
  bundleOfDay,
  driveDay,
  NATURAL_PICKUP,
  Random,
  roadEcuDevice,
  scheduleOf,
  STOCK_NATURAL,
  tablesOf,
  type DaySpec,
  type PartSet,
  type RoadCar,
} from '../src/simulate/index.js';

const RATIOS = [3.5, 2.1, 1.45, 1.1, 0.9];
const FINAL = 4.1;
const RADIUS_M = 0.31;
const MASS_KG = 1240;
/** Metres a second for every turn a minute in a gear. */
const perRpm = (gear: number) => (2 * Math.PI * RADIUS_M) / 60 / (RATIOS[gear - 1]! * FINAL);

const CAR: RoadCar = {
  massKg: MASS_KG * 1.06,
  dragAreaM2: 0.65,
  rollingN: 0.012 * MASS_KG * 9.81,
  gears: [
    { gear: 3, mPerSPerRpm: perRpm(3), startRpm: 2600, stopRpm: 6600 },
    { gear: 4, mPerSPerRpm: perRpm(4), startRpm: 5000, stopRpm: 6400 },
  ],
};

function roadDay(seed: number, change: (stock: PartSet) => PartSet = (stock) => stock, car: RoadCar = CAR) {
  const random = new Random(seed);
  const spec: DaySpec = {
    seed,
    engine: NATURAL_PICKUP,
    setups: { A: STOCK_NATURAL, B: change(STOCK_NATURAL) },
    schedule: scheduleOf(
      'ABBAAB',
      () => random.between(4, 6),
      () => 15,
      false,
    ),
    scatter: {
      runToRun: 0.005,
      boostWander: 0,
      driftPerHour: 0.002,
      walkAtSwap: 0.001,
      weatherPerHour: { temperatureK: 0.5, pressurePa: 20, humidity: 0 },
    },
    weather: { temperatureC: 17, pressurePa: 100_200, relativeHumidity: 0.5 },
    oilColdK: 2,
    road: car,
  };
  const driven = driveDay(spec);
  const bundle: Pick<Bundle, 'programme' | 'vehicle' | 'cell' | 'setups'> = {
    programme: {
      title: 'road',
      question: '',
      metric: 'meanPower',
      bandRpm: [4000, 6400],
      smallestGainPct: 1,
      correction: 'NONE',
      questions: [{ id: 'q', kind: 'cooler-charge' }],
    },
    vehicle: {
      name: 'road',
      aspiration: 'na',
      boostControl: 'none',
      ignition: 'spark',
      gearRatios: RATIOS,
      finalDrive: FINAL,
      tyreRadiusM: RADIUS_M,
      massKg: MASS_KG,
      dragAreaM2: 0.65,
    },
    cell: { name: 'airfield', kind: 'road', powerAt: 'wheel' },
    setups: ['A', 'B'].map((id) => ({ id, name: id, reference: id === 'A', parts: [id], state: {} })),
  };
  const simulated = bundleOfDay(
    { ...bundle, cell: bundle.cell!, startedAt: '2026-02-02T09:00:00Z' },
    driven,
    [{ dialect: 'bracketed', device: (i) => roadEcuDevice(70 * i, false) }],
    seed,
  );
  return { driven, bundle: simulated.bundle, tables: tablesOf(simulated) };
}
const roadOf = ({ bundle, tables }: ReturnType<typeof roadDay>) => analyseMeasured(bundle, measurePulls(bundle, tables)).findings.road;

describe('a run through two gears on the road', () => {
  it('is told apart gear by gear, with its speeds, its intake air and its spark at the top', () => {
    const day = roadDay(11);
    const { runs } = roadOf(day);
    const measured = day.bundle.pulls.length;
    expect(runs.length).toBe(2 * measured);
    for (const [i, run] of runs.entries()) {
      const gear = CAR.gears[i % 2]!;
      expect(run.gear).toBe(gear.gear);
      expect(run.rpmPerMS! * gear.mPerSPerRpm).toBeCloseTo(1, 2);
      expect(Math.abs(run.fromRpm - gear.startRpm)).toBeLessThan(220);
      expect(Math.abs(run.toRpm - gear.stopRpm)).toBeLessThan(220);
      expect(run.sparkAtTopDeg).toBeGreaterThan(5);
      expect(run.riseK).not.toBeNull();
    }
  });

  it('tells the power at its wheels within what mass, drag, slope and wind leave open', () => {
    const day = roadDay(12);
    let [held, all] = [0, 0];
    for (const run of roadOf(day).runs) {
      const { sweep } = day.driven[day.bundle.pulls.findIndex(({ id }) => id === run.pull)]!;
      const inRun = sweep.instants.filter(
        ({ engineSpeedRpm, rollerSpeedMPerS, throttlePct }) =>
          throttlePct > 90 &&
          Math.abs(engineSpeedRpm / rollerSpeedMPerS / run.rpmPerMS! - 1) < 0.02 &&
          engineSpeedRpm > run.fromRpm &&
          engineSpeedRpm < run.toRpm,
      );
      // Uniform over engine speed, as the estimate is.
      let [area, span] = [0, 0];
      for (let i = 1; i < inRun.length; i += 1) {
        const width = inRun[i]!.engineSpeedRpm - inRun[i - 1]!.engineSpeedRpm;
        area += (width * (inRun[i]!.wheelPowerW + inRun[i - 1]!.wheelPowerW)) / 2;
        span += width;
      }
      const truth = area / span / 1000;
      all += 1;
      if (run.wheelPower!.low <= truth && truth <= run.wheelPower!.high) held += 1;
      expect(run.wheelPower!.high - run.wheelPower!.low).toBeGreaterThan(0.04 * truth);
    }
    expect(held).toBe(all);
  });

  it('compares only what unequal runs have in common, gear by gear, and says so', () => {
    const day = roadDay(13, (stock) => ({ ...stock, tuning: { gain: 0.12, rpm: 5600, widthRpm: 1500 } }));
    const { pairs } = roadOf(day);
    expect(pairs.map(({ gear }) => gear)).toEqual([3, 4]);
    for (const pair of pairs) {
      expect(pair.runs).toEqual({ reference: 3, candidate: 3 });
      expect(pair.toRpm).toBeGreaterThan(pair.fromRpm);
      expect(pair.seconds!.value).toBeLessThan(0);
      expect(pair.seconds!.high!).toBeLessThan(0);
    }
  });

  it('is told by its ratio as none of the car’s gears where none fits, and says nothing on rollers', () => {
    const odd = roadDay(14, undefined, { ...CAR, gears: [{ gear: 9, mPerSPerRpm: perRpm(3) * 1.2, startRpm: 2600, stopRpm: 6400 }] });
    expect(new Set(roadOf(odd).runs.map(({ gear }) => gear))).toEqual(new Set([null]));
    const rollers = { ...odd, bundle: { ...odd.bundle, cell: { ...odd.bundle.cell!, kind: 'inertia' as const } } };
    expect(roadOf(rollers)).toEqual({ runs: [], pairs: [] });
  });
});
