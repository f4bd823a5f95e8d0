import type { CarState, Engine, PartSet, Weather } from './car.js';
import { driveSweep, STEP_S, type Instant, type PullChance, type SweepResult } from './sweep.js';

/** A gear on the road: how fast the car goes per engine speed, and between which speeds it is driven. */
export interface RoadGear {
  gear: number;
  mPerSPerRpm: number;
  startRpm: number;
  stopRpm: number;
}

/** The car as the road sees it. */
export interface RoadCar {
  massKg: number;
  dragAreaM2: number;
  rollingN: number;
  gears: readonly RoadGear[];
}

/** Throttle closed between two gears, s. */
const SHIFT_S = 0.5;

/** A full-throttle run through several gears: sweeps one after the other, the throttle closed in between; heat is carried along. */
export function driveRoad(engine: Engine, car: RoadCar, parts: PartSet, weather: Weather, from: CarState, chance: PullChance): SweepResult {
  const instants: Instant[] = [];
  let state = from;
  let fullThrottleS = 0;
  let liftS = 0;
  car.gears.forEach((gear, i) => {
    const perRadian = (gear.mPerSPerRpm * 60) / (2 * Math.PI);
    const geared: Engine = {
      ...engine,
      startRpm: gear.startRpm,
      stopRpm: gear.stopRpm,
      rollerMPerSPerRpm: gear.mPerSPerRpm,
      inertiaKgM2: car.massKg * perRadian ** 2,
      roadLoad: { dragAreaM2: car.dragAreaM2, rollingN: car.rollingN },
    };
    const sweep = driveSweep(geared, parts, weather, state, chance, undefined, i === 0 ? undefined : SHIFT_S);
    state = sweep.state;
    const beganS = instants.length * STEP_S;
    if (i === 0) fullThrottleS = sweep.fullThrottleS;
    liftS = beganS + sweep.liftS;
    const isLast = i === car.gears.length - 1;
    const before = instants.at(-1);
    for (const instant of sweep.instants) {
      if (!isLast && instant.timeS >= sweep.liftS) break;
      const shifted =
        before && instant.timeS < sweep.fullThrottleS ? inShift(instant, before, instant.timeS / sweep.fullThrottleS) : instant;
      instants.push({ ...shifted, timeS: instants.length * STEP_S });
    }
  });
  return { instants, fullThrottleS, liftS, state };
}

/** Between two gears the throttle is shut and the engine falls to the speed of the next. */
function inShift(instant: Instant, before: Instant, share: number): Instant {
  const engineSpeedRpm = before.engineSpeedRpm + share * (instant.engineSpeedRpm - before.engineSpeedRpm);
  return { ...instant, engineSpeedRpm, rollerSpeedMPerS: before.rollerSpeedMPerS, throttlePct: 3, pedalPct: 0, wheelPowerW: 0 };
}
