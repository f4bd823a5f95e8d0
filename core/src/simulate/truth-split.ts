import type { CarState } from './car.js';
import type { DaySpec, DrivenPull } from './day.js';
import { driveSweep, type ImposedAir, type SweepResult } from './sweep.js';
import { bySpeed, meanOverSpeed, meanState, meanWeather } from './truth.js';

/** What truly made a candidate differ from the reference on a day, as logarithms of mean power, by cause. */
export interface TruthSplit {
  heatState: number;
  drift: number;
  learning: number;
  oil: number;
  chargeTemperature: number;
  manifoldPressure: number;
  breathing: number;
  ignition: number;
}

const QUIET = { powerFactor: 1, boostFactor: 1, mishap: null };

/**
 * The true split of one day: of the day's own state by driving every pull's sweep with and without it, of the part by driving both from one start and
 * imposing the reference's air and spark on the candidate, one after the other.
 */
export function truthSplit(
  spec: Pick<DaySpec, 'engine' | 'setups'>,
  driven: readonly DrivenPull[],
  pair: readonly [string, string],
  band: readonly [number, number],
): TruthSplit {
  const measured = driven.filter(({ kind, setup }) => kind === 'measured' && pair.includes(setup));
  const weather = meanWeather(measured);
  const common = meanState(measured);
  const lnPower = (sweep: SweepResult) => Math.log(meanOverSpeed(sweep, band, ({ wheelPowerW }) => wheelPowerW));
  const contrast = (value: (pull: DrivenPull) => number) => {
    const mean = (setup: string) => {
      const own = measured.filter((pull) => pull.setup === setup).map(value);
      return own.reduce((sum, entry) => sum + entry, 0) / own.length;
    };
    return mean(pair[1]) - mean(pair[0]);
  };
  const from = ({ setup }: DrivenPull, state: CarState) => lnPower(driveSweep(spec.engine, spec.setups[setup]!, weather, state, QUIET));
  const ofState = (levelled: Partial<CarState>) =>
    contrast((pull) => from(pull, pull.startState) - from(pull, { ...pull.startState, ...levelled }));
  const { bayC, boxC, coreC, circuitC, coolantC, sensorC, oilC } = common;

  const still = { ...common, learnedRetardDeg: 0 };
  const sweepOf = (setup: string, imposed?: ImposedAir) => driveSweep(spec.engine, spec.setups[setup]!, weather, still, QUIET, imposed);
  const [reference, candidate] = [sweepOf(pair[0]), sweepOf(pair[1])];
  const [ofReference, ofCandidate] = [bySpeed(reference), bySpeed(candidate)];
  const held = spec.engine.boostControl === 'absolute' || spec.engine.boostControl === 'gauge';
  const manifoldPa = (rpm: number) => ofReference(rpm, (instant) => instant.manifoldPa);
  const air = (withPressure: boolean, spark: typeof ofReference): ImposedAir => ({
    chargeC: (rpm) => ofReference(rpm, (instant) => instant.chargeC),
    manifoldPa: withPressure && held ? manifoldPa : null,
    sparkDeg: (rpm) => spark(rpm, (instant) => instant.sparkDeg),
  });
  const atCharge = lnPower(sweepOf(pair[1], air(false, ofCandidate)));
  const atAir = lnPower(sweepOf(pair[1], air(true, ofCandidate)));
  const atAirAndSpark = lnPower(sweepOf(pair[1], air(true, ofReference)));
  return {
    heatState: ofState({ bayC, boxC, coreC, circuitC, coolantC, sensorC }),
    drift: contrast(({ drift }) => Math.log(drift)),
    learning: ofState({ learnedRetardDeg: 0 }),
    oil: ofState({ oilC }),
    chargeTemperature: lnPower(candidate) - atCharge,
    manifoldPressure: atCharge - atAir,
    breathing: atAirAndSpark - lnPower(reference),
    ignition: atAir - atAirAndSpark,
  };
}

/** The true difference of a candidate from the reference over engine speed, from one start, as a logarithm of power. */
export function truthCurve(
  spec: Pick<DaySpec, 'engine' | 'setups'>,
  driven: readonly DrivenPull[],
  pair: readonly [string, string],
): (rpm: number) => number {
  const measured = driven.filter(({ kind, setup }) => kind === 'measured' && pair.includes(setup));
  const still = { ...meanState(measured), learnedRetardDeg: 0 };
  const [reference, candidate] = pair.map((setup) =>
    bySpeed(driveSweep(spec.engine, spec.setups[setup]!, meanWeather(measured), still, QUIET)),
  ) as [ReturnType<typeof bySpeed>, ReturnType<typeof bySpeed>];
  const ln = (of: ReturnType<typeof bySpeed>, rpm: number) => Math.log(of(rpm, ({ wheelPowerW }) => wheelPowerW));
  return (rpm) => ln(candidate, rpm) - ln(reference, rpm);
}
