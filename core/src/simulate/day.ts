import type { CarState, Engine, PartSet, Weather } from './car.js';
import { settledState } from './car.js';
import { Random } from './random.js';
import { driveRoad, type RoadCar } from './road.js';
import { stand } from './standing.js';
import { driveSweep, type Mishap, type PullChance, type SweepResult } from './sweep.js';

/** One pull of the schedule. */
export interface ScheduledPull {
  setup: string;
  kind: 'measured' | 'conditioning';
  /** Minutes since the pull before, or since the car was ready. */
  afterMin: number;
  ecuReset?: boolean;
  mishap?: Mishap;
}

/** How much nature scatters. Shares are fractions of power. */
export interface Scatter {
  runToRun: number;
  boostWander: number;
  driftPerHour: number;
  walkAtSwap: number;
  weatherPerHour: { temperatureK: number; pressurePa: number; humidity: number };
}

export interface DaySpec {
  seed: number;
  engine: Engine;
  setups: Record<string, PartSet>;
  schedule: ScheduledPull[];
  scatter: Scatter;
  weather: Weather;
  /** Oil starts this far below its idle temperature, K. */
  oilColdK: number;
  /** Driven on the road, through its gears; on rollers where there is none. */
  road?: RoadCar;
}

/** A pull as it was driven, with what only the simulator knows. */
export interface DrivenPull {
  index: number;
  setup: string;
  kind: ScheduledPull['kind'];
  timeH: number;
  ecuReset: boolean;
  weather: Weather;
  startState: CarState;
  chance: PullChance;
  /** Drift of the measured power at this moment, as a factor. */
  drift: number;
  sweep: SweepResult;
}

/** Spark held back after a reset, ° : worth about two per cent of power. */
export const RESET_RETARD_DEG = { na: 5.5, turbo: 2.8, supercharged: 2.8 };
/** The engine idles this long after a swap before the next pull, s. */
const WARM_AGAIN_S = 150;

/** Drives a whole day, pull after pull, with heat, learning, drift and weather carried along. */
export function driveDay(spec: DaySpec): DrivenPull[] {
  const random = new Random(spec.seed);
  let weather = spec.weather;
  const weatherSlope = random.normal();
  const driftRate = random.normal(spec.scatter.driftPerHour);
  let walk = 0;
  let timeH = 0;
  let state = settledState(weather);
  state.oilC -= spec.oilColdK;
  let fitted = spec.schedule[0]?.setup ?? '';
  const driven: DrivenPull[] = [];
  for (const [index, scheduled] of spec.schedule.entries()) {
    const seconds = scheduled.afterMin * 60;
    const parts = spec.setups[scheduled.setup]!;
    if (scheduled.setup !== fitted) {
      const off = Math.max(0, seconds - WARM_AGAIN_S);
      state = stand(state, spec.setups[fitted]!, weather, off, 'off');
      state = fitOnCar(state, weather);
      state = stand(state, parts, weather, seconds - off, 'idle');
      walk += random.normal(spec.scatter.walkAtSwap);
      fitted = scheduled.setup;
    } else state = stand(state, parts, weather, seconds, 'idle');
    if (scheduled.ecuReset) state.learnedRetardDeg = RESET_RETARD_DEG[spec.engine.aspiration];
    timeH += scheduled.afterMin / 60;
    weather = weatherAt(spec, timeH, weatherSlope, random);
    const chance: PullChance = {
      powerFactor: Math.exp(random.normal(spec.scatter.runToRun)),
      boostFactor: Math.exp(random.normal(spec.scatter.boostWander)),
      mishap: scheduled.mishap ?? null,
    };
    const drift = Math.exp(driftRate * timeH + walk);
    const startState = { ...state };
    const drifted = { ...chance, powerFactor: chance.powerFactor * drift };
    const sweep = spec.road
      ? driveRoad(spec.engine, spec.road, parts, weather, state, drifted)
      : driveSweep(spec.engine, parts, weather, state, drifted);
    state = sweep.state;
    timeH += sweep.liftS / 3600;
    driven.push({
      index,
      setup: scheduled.setup,
      kind: scheduled.kind,
      timeH,
      ecuReset: scheduled.ecuReset ?? false,
      weather,
      startState,
      chance,
      drift,
      sweep,
    });
  }
  return driven;
}

/** A part that comes from the bench is cooler than the bay. */
export function fitOnCar(state: CarState, weather: Weather): CarState {
  return { ...state, coreC: 0.5 * (state.coreC + weather.temperatureC), boxC: 0.5 * (state.boxC + weather.temperatureC) };
}

function weatherAt({ weather, scatter }: DaySpec, timeH: number, slope: number, random: Random): Weather {
  const { temperatureK, pressurePa, humidity } = scatter.weatherPerHour;
  return {
    temperatureC: weather.temperatureC + temperatureK * slope * timeH + random.normal(0.15),
    pressurePa: weather.pressurePa - pressurePa * slope * timeH + random.normal(15),
    relativeHumidity: Math.min(0.95, Math.max(0.1, weather.relativeHumidity - humidity * slope * timeH)),
  };
}

/** A schedule from letters such as "ABBA": minutes apart, swaps, and a conditioning pull at the start and after each swap. */
export function scheduleOf(order: string, apartMin: () => number, swapMin: () => number, conditioningAfterSwap: boolean): ScheduledPull[] {
  const schedule: ScheduledPull[] = [];
  [...order].forEach((setup, i) => {
    const swapped = i > 0 && order[i - 1] !== setup;
    let afterMin = i === 0 ? 8 : swapped ? swapMin() : apartMin();
    if (i === 0 || (swapped && conditioningAfterSwap)) {
      schedule.push({ setup, kind: 'conditioning', afterMin });
      afterMin = apartMin();
    }
    schedule.push({ setup, kind: 'measured', afterMin });
  });
  return schedule;
}
