import { DRY_AIR_SPECIFIC_HEAT } from '../air/moist-air.js';
import { notNegative, positive, share } from '../input-rules.js';
import { GezeitError, impossible } from '../errors.js';

/** A core as one mass: heat capacity J/K, charge flow kg/s, charge-to-core effectiveness, conductance to ambient W/K. */
export interface CoreMass {
  heatCapacityJPerK: number;
  massFlowKgS: number;
  effectiveness: number;
  toAmbientWPerK: number;
  chargeInC: number;
  ambientC: number;
  specificHeat?: number;
}

export interface CoreState {
  timeConstantS: number;
  steadyC: number;
  coreC: number;
  chargeOutC: number;
}

/** Temperature of a core, °C, a time after it stood at a temperature, and of the charge behind it (formula i6). */
export function coreAfter(core: CoreMass, startC: number, timeS: number): CoreState {
  const { heatCapacityJPerK, massFlowKgS, effectiveness, toAmbientWPerK, chargeInC, ambientC, specificHeat = DRY_AIR_SPECIFIC_HEAT } = core;
  const fromCharge = notNegative('air mass flow', massFlowKgS) * specificHeat * share('effectiveness', effectiveness);
  const total = positive('conductance', fromCharge + notNegative('conductance to ambient', toAmbientWPerK));
  const timeConstantS = positive('heat capacity', heatCapacityJPerK) / total;
  const steadyC = (fromCharge * chargeInC + toAmbientWPerK * ambientC) / total;
  const coreC = steadyC + (startC - steadyC) * Math.exp(-notNegative('time', timeS) / timeConstantS);
  return { timeConstantS, steadyC, coreC, chargeOutC: chargeInC - effectiveness * (chargeInC - coreC) };
}

export interface Recovery {
  timeConstantS: number;
  halfTimeS: number;
  endC: number;
  /** Distance from the end at time 0 of the record, K. */
  amplitudeK: number;
  /** Standard deviation of the readings about the curve, K. */
  residualK: number;
}

/**
 * Time constant of a cooling body by least squares of T_end + A·exp(−t/τ) on temperatures, °C, with the end from its own sensor
 * (formula i7). The amplitude is solved in closed form, τ by golden section on its logarithm.
 * @throws GezeitError `too-few-readings` under three readings; `impossible-input` where the body does not cool towards the end.
 */
export function fitRecovery(timeS: readonly number[], temperatureC: readonly number[], endC: number): Recovery {
  if (timeS.length < 3 || timeS.length !== temperatureC.length)
    throw new GezeitError('too-few-readings', 'Three moments or more, each with a temperature, are needed.', 'Add readings.');
  const start = timeS[0]!;
  const span = timeS[timeS.length - 1]! - start;
  if (!(span > 0)) throw impossible('time', 'must advance', span);
  const excess = temperatureC.map((value) => value - endC);
  if (excess.every((value) => Math.abs(value) < 1e-9)) throw impossible('temperature', 'must differ from the end', temperatureC[0]!);
  const solve = (logTau: number) => {
    const shape = timeS.map((t) => Math.exp(-(t - start) / Math.exp(logTau)));
    const amplitude = shape.reduce((sum, value, i) => sum + value * excess[i]!, 0) / shape.reduce((sum, value) => sum + value ** 2, 0);
    const squares = shape.reduce((sum, value, i) => sum + (excess[i]! - amplitude * value) ** 2, 0);
    return { amplitude, squares };
  };
  const logTau = goldenSection((value) => solve(value).squares, Math.log(span / 200), Math.log(span * 200));
  const { amplitude, squares } = solve(logTau);
  const timeConstantS = Math.exp(logTau);
  return {
    timeConstantS,
    halfTimeS: Math.LN2 * timeConstantS,
    endC,
    amplitudeK: amplitude,
    residualK: Math.sqrt(squares / Math.max(1, timeS.length - 2)),
  };
}

const GOLDEN = (Math.sqrt(5) - 1) / 2;

function goldenSection(f: (x: number) => number, from: number, to: number): number {
  // A coarse walk first: the sum of squares has one valley, but flat shoulders.
  const steps = 60;
  const at = (i: number) => from + ((to - from) * i) / steps;
  let best = 0;
  for (let i = 1; i <= steps; i++) if (f(at(i)) < f(at(best))) best = i;
  let [low, high] = [at(Math.max(0, best - 1)), at(Math.min(steps, best + 1))];
  for (let i = 0; i < 90; i++) {
    const [left, right] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)];
    if (f(left) < f(right)) high = right;
    else low = left;
  }
  return (low + high) / 2;
}

/** Time left, s, until a cooling body reaches a goal, °C; null where the goal lies at or beyond its end (formula i7). */
export function timeToGoalS(recovery: Pick<Recovery, 'timeConstantS' | 'endC'>, nowC: number, goalC: number): number | null {
  const [now, goal] = [nowC - recovery.endC, goalC - recovery.endC];
  if (Math.sign(now) * now <= Math.sign(now) * goal) return 0;
  if (goal / now <= 0) return null;
  return recovery.timeConstantS * Math.log(now / goal);
}
