import { notNegative, positive } from '../input-rules.js';

/** Standard gravity, m/s², exact (ISO 80000-3). */
const STANDARD_GRAVITY = 9.80665;

export interface RoadLoad {
  massKg: number;
  /** What turns counts as this much more mass: 1 + rotating mass over mass. */
  massFactor: number;
  dragAreaM2: number;
  rollingResistance: number;
  airDensityKgM3: number;
  /** Rise over run. */
  grade: number;
  headwindMPerS: number;
}

/** Forces on a car that is accelerated on the road, N, and the power at its wheels, W. */
export interface WheelPower {
  inertiaN: number;
  rollingN: number;
  gradeN: number;
  dragN: number;
  powerW: number;
}

/**
 * Power at the wheels on the road, after the losses of the driveline, including what accelerates what turns (formula k1).
 * Source: Gillespie, Fundamentals of Vehicle Dynamics.
 */
export function wheelPower(load: RoadLoad, speedMPerS: number, accelerationMPerS2: number): WheelPower {
  const mass = positive('mass', load.massKg);
  const angle = Math.atan(load.grade);
  const air = speedMPerS + load.headwindMPerS;
  const inertiaN = mass * load.massFactor * accelerationMPerS2;
  const rollingN = notNegative('rolling resistance', load.rollingResistance) * mass * STANDARD_GRAVITY * Math.cos(angle);
  const gradeN = mass * STANDARD_GRAVITY * Math.sin(angle);
  const dragN = 0.5 * load.airDensityKgM3 * load.dragAreaM2 * air * Math.abs(air);
  return { inertiaN, rollingN, gradeN, dragN, powerW: (inertiaN + rollingN + gradeN + dragN) * speedMPerS };
}

export interface RotatingParts {
  wheelsKgM2: number;
  engineKgM2: number;
  /** Engine speed over wheel speed, final drive included. */
  totalRatio: number;
  tyreRadiusM: number;
}

/**
 * What turns, as mass that moves along, kg, and the factor that it makes of a car's mass (formula k2).
 * Source: Wong, Theory of Ground Vehicles.
 */
export function rotatingMass({ wheelsKgM2, engineKgM2, totalRatio, tyreRadiusM }: RotatingParts, massKg: number) {
  const equivalentKg = (wheelsKgM2 + engineKgM2 * totalRatio ** 2) / positive('tyre radius', tyreRadiusM) ** 2;
  return { equivalentKg, massFactor: 1 + equivalentKg / positive('mass', massKg) };
}
