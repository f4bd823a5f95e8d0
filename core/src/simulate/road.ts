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
    const sweep = driveSweep(geared, parts, weather, state, chance);
    state = sweep.state;
    const isLast = i === car.gears.length - 1;
    const own = sweep.instants.filter(({ timeS }) => (i === 0 || timeS >= sweep.fullThrottleS) && (isLast || timeS < sweep.liftS));
    if (i === 0) fullThrottleS = sweep.fullThrottleS;
    for (const instant of own) instants.push({ ...instant, timeS: instants.length * STEP_S });
    liftS = instants.length * STEP_S - (isLast ? sweep.instants.length * STEP_S - sweep.liftS : 0);
    if (isLast) return;
    const next = car.gears[i + 1]!;
    const last = instants.at(-1)!;
    for (let k = 0; k < SHIFT_S / STEP_S; k += 1) {
      const share = (k * STEP_S) / SHIFT_S;
      instants.push({
        ...last,
        timeS: instants.length * STEP_S,
        engineSpeedRpm: last.engineSpeedRpm + share * (next.startRpm - last.engineSpeedRpm),
        throttlePct: 3,
        pedalPct: 0,
        wheelPowerW: 0,
        airFlowKgS: 0.02,
      });
    }
  });
  return { instants, fullThrottleS, liftS, state };
}
