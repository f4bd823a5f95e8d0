import type { Correction } from '@gezeit/contract';
import { correctionFactor } from '../correction/standards.js';
import type { CarState, Weather } from './car.js';
import type { DaySpec, DrivenPull } from './day.js';
import { driveSweep, type ImposedAir, type Instant, type PullChance, type SweepResult } from './sweep.js';

/** True differences of a candidate from the reference, as logarithms of corrected mean power. */
export interface Truth {
  asRun: number;
  levelled: number;
  ownStart: number;
  sameAir: number;
  /** Mean charge temperature in the band from the same start, K. */
  chargeK: number;
}

/** What the truth needs of a pull: how it began. */
export type DrivenStart = Pick<DrivenPull, 'kind' | 'setup' | 'startState' | 'weather' | 'drift'>;

const NO_CHANCE: PullChance = { powerFactor: 1, boostFactor: 1, mishap: null };

/** What the parts truly do on this day: the same sweeps without scatter, drift or learning, from chosen starts. */
export function truthOf(
  spec: Pick<DaySpec, 'engine' | 'setups'>,
  driven: DrivenStart[],
  pair: readonly [string, string],
  band: readonly [number, number],
  correction: Correction,
): Truth {
  const measured = driven.filter(({ kind, setup }) => kind === 'measured' && pair.includes(setup));
  const weather = meanWeather(measured);
  const factor = correctionFactor(correction, weather);
  const power = (sweep: SweepResult) => Math.log(factor * meanOverSpeed(sweep, band, ({ wheelPowerW }) => wheelPowerW));
  const withCircuit = measured.filter(({ setup }) => spec.setups[setup]!.cooler?.circuit);
  // A water circuit is warm or cold only where there is one: a setup without says nothing of it.
  const common = { ...meanState(measured), ...(withCircuit.length > 0 ? { circuitC: meanState(withCircuit).circuitC } : {}) };
  const [reference, candidate] = pair.map((setup) => driveSweep(spec.engine, spec.setups[setup]!, weather, common, NO_CHANCE)) as [
    SweepResult,
    SweepResult,
  ];
  const held = spec.engine.boostControl === 'absolute' || spec.engine.boostControl === 'gauge';
  const imposed = airOf(reference, candidate, held);
  const sameAir = driveSweep(spec.engine, spec.setups[pair[1]]!, weather, common, NO_CHANCE, imposed);
  const own = pair.map((setup) => {
    const start = meanState(measured.filter((pull) => pull.setup === setup));
    return driveSweep(spec.engine, spec.setups[setup]!, weather, { ...start, coolantC: common.coolantC, oilC: common.oilC }, NO_CHANCE);
  }) as [SweepResult, SweepResult];
  const charge = (sweep: SweepResult) => meanOverSpeed(sweep, band, ({ sensorC }) => sensorC);
  return {
    asRun: asRunTruth(spec, measured, pair, band, correction),
    levelled: power(candidate) - power(reference),
    ownStart: power(own[1]) - power(own[0]),
    sameAir: power(sameAir) - power(reference),
    chargeK: charge(candidate) - charge(reference),
  };
}

function asRunTruth(
  spec: Pick<DaySpec, 'engine' | 'setups'>,
  measured: DrivenStart[],
  pair: readonly [string, string],
  band: readonly [number, number],
  correction: Correction,
): number {
  const mean = (setup: string) => {
    const own = measured.filter((pull) => pull.setup === setup);
    const logs = own.map(({ startState, weather, drift }) => {
      const sweep = driveSweep(spec.engine, spec.setups[setup]!, weather, startState, NO_CHANCE);
      return Math.log(drift * correctionFactor(correction, weather) * meanOverSpeed(sweep, band, ({ wheelPowerW }) => wheelPowerW));
    });
    return logs.reduce((a, b) => a + b, 0) / logs.length;
  };
  return mean(pair[1]) - mean(pair[0]);
}

/** Mean of a value over the band, uniform over engine speed. */
export function meanOverSpeed(sweep: SweepResult, [low, high]: readonly [number, number], value: (instant: Instant) => number): number {
  let area = 0;
  let span = 0;
  const inSweep = sweep.instants.filter(({ timeS }) => timeS >= sweep.fullThrottleS && timeS <= sweep.liftS);
  for (let i = 1; i < inSweep.length; i += 1) {
    const [a, b] = [inSweep[i - 1]!, inSweep[i]!];
    const width = b.engineSpeedRpm - a.engineSpeedRpm;
    if (width <= 0 || a.engineSpeedRpm < low || b.engineSpeedRpm > high) continue;
    area += (width * (value(a) + value(b))) / 2;
    span += width;
  }
  return area / span;
}

function airOf(reference: SweepResult, candidate: SweepResult, held: boolean): ImposedAir {
  const air = bySpeed(reference);
  const spark = bySpeed(candidate);
  return {
    chargeC: (rpm) => air(rpm, ({ chargeC }) => chargeC),
    manifoldPa: held ? (rpm) => air(rpm, ({ manifoldPa }) => manifoldPa) : null,
    sparkDeg: (rpm) => spark(rpm, ({ sparkDeg }) => sparkDeg),
  };
}

/** Values of a sweep by engine speed. */
export function bySpeed(sweep: SweepResult): (rpm: number, value: (instant: Instant) => number) => number {
  const rising = sweep.instants.filter(({ timeS }) => timeS >= sweep.fullThrottleS && timeS <= sweep.liftS);
  return (rpm, value) => {
    const right = rising.findIndex(({ engineSpeedRpm }) => engineSpeedRpm >= rpm);
    if (right <= 0) return value(right < 0 ? rising.at(-1)! : rising[0]!);
    const [a, b] = [rising[right - 1]!, rising[right]!];
    const share = (rpm - a.engineSpeedRpm) / (b.engineSpeedRpm - a.engineSpeedRpm);
    return value(a) + share * (value(b) - value(a));
  };
}

export function meanState(pulls: readonly DrivenStart[]): CarState {
  const sum = (key: keyof CarState) => pulls.reduce((total, { startState }) => total + startState[key], 0) / pulls.length;
  return {
    bayC: sum('bayC'),
    boxC: sum('boxC'),
    coreC: sum('coreC'),
    circuitC: sum('circuitC'),
    coolantC: sum('coolantC'),
    oilC: sum('oilC'),
    sensorC: sum('sensorC'),
    learnedRetardDeg: 0,
  };
}

export function meanWeather(pulls: readonly DrivenStart[]): Weather {
  const sum = (key: keyof Weather) => pulls.reduce((total, { weather }) => total + weather[key], 0) / pulls.length;
  return { temperatureC: sum('temperatureC'), pressurePa: sum('pressurePa'), relativeHumidity: sum('relativeHumidity') };
}
