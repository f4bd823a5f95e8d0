import type { Affected, Bundle, ConfoundCode, Setup } from '@gezeit/contract';
import { CHECKS } from '../checks/index.js';
import { isHeld } from '../checks/boost-low.js';
import { correctionFactor } from '../correction/standards.js';
import type { Assumptions } from '../judge/assumptions.js';
import { largestLambdaEffect, MEASURED_RULES } from '../judge/confound-rules.js';
import type { Fit } from '../judge/fit.js';
import { ignitionDifferenceDeg } from '../judge/ignition-difference.js';
import { boostThresholdLn } from '../judge/manifold-scatter.js';
import { setupMean } from '../judge/series.js';
import { bandMean, type Band } from '../pull/band.js';
import { said, type AnySaid } from '../said.js';
import { onEveryPull, type AnalysedPull } from './analysed-pull.js';
import type { Cloud } from './cloud.js';
import type { DaySeries } from './day-series.js';
import { gearSaid } from './gear-apart.js';
import { isOrderConfounded } from './order.js';
import { statedAlike, stateClouds } from './state-clouds.js';
import type { UsedBand } from './used-band.js';
import { mean } from '../numeric/means.js';

/** Everything the clouds of a pair are judged from. */
export interface CloudInput {
  bundle: Bundle;
  reference: Setup;
  candidate: Setup;
  pulls: AnalysedPull[];
  day: DaySeries;
  band: UsedBand;
  levelled: Fit;
  assumptions: Assumptions;
  /** What would matter, as a fraction. */
  smallest: number;
}

/** The clouds of a pair, and what of ignition and mixture still is in a comparison at the same air. */
export interface Clouds {
  clouds: Cloud[];
  /** What may differ beside the flow at the same air, changed or not logged. */
  stillIn: ('tune' | 'fuel' | 'ignition' | 'mixture' | 'manifoldPressure')[];
}

/** All clouds of a pair under its terms. */
export function cloudsOf(input: CloudInput): Clouds {
  const stated = stateClouds(input.reference, input.candidate).clouds;
  const { measured, stillIn } = measuredClouds(input);
  const changed = (code: ConfoundCode) => stated.some((cloud) => cloud.code === code);
  const gear = changed('gear-changed') ? null : gearSaid((value) => meansOf(input, value));
  const clouds = [
    ...stated,
    ...(gear ? [{ code: 'gear-changed' as const, said: gear, affects: ['power' as const], withholds: ['power' as const] }] : []),
    ...conditionClouds(input.bundle),
    ...measured,
    ...orderClouds(input),
    ...flagClouds(input),
  ];
  return {
    clouds,
    stillIn: [...(changed('tune-changed') ? (['tune'] as const) : []), ...(changed('fuel-changed') ? (['fuel'] as const) : []), ...stillIn],
  };
}

/** Items of the condition check that flatter the new part where they are not good; the others are said. */
const CONDITION_WITHHOLDS: readonly string[] = ['filter', 'box', 'leaks', 'clamps'];

/** What was answered *not good* in the condition check before the pulls. */
export function conditionClouds({ condition }: Bundle): Cloud[] {
  const bad = (condition ?? []).filter(({ state }) => state === 'not-good').map(({ item }) => item as string);
  const [heavy, light] = [
    bad.filter((item) => CONDITION_WITHHOLDS.includes(item)),
    bad.filter((item) => !CONDITION_WITHHOLDS.includes(item)),
  ];
  const affects: Affected[] = ['power', 'restriction'];
  return [
    ...(heavy.length > 0
      ? [
          {
            code: 'condition-not-met' as const,
            said: said('condition-not-met', { items: heavy, stands: true }),
            affects,
            withholds: affects,
          },
        ]
      : []),
    ...(light.length > 0
      ? [
          {
            code: 'condition-not-met' as const,
            said: said('condition-not-met', { items: light, stands: false }),
            affects: ['power'] as Affected[],
            withholds: [],
          },
        ]
      : []),
  ];
}

function measuredClouds(input: CloudInput): { measured: Cloud[]; stillIn: Clouds['stillIn'] } {
  const { day, bundle, assumptions, levelled, reference, candidate } = input;
  const index = day.setups.indexOf(candidate.id);
  const measured: Cloud[] = [];
  const stillIn: Clouds['stillIn'] = [];
  const add = (code: ConfoundCode, what: AnySaid, withholds: boolean, affects: Affected[] = ['power']) =>
    measured.push({ code, said: what, affects, withholds: withholds ? affects : [] });
  const leading = levelled.estimates[index - 1]!.value;
  const bySize = (effect: number) => Math.abs(effect) >= MEASURED_RULES.withholdingShare * Math.max(Math.abs(leading), input.smallest);
  const { series } = day;
  if (isHeld(bundle) && series.logManifold) {
    const difference = setupMean(series, series.logManifold, index) - setupMean(series, series.logManifold, 0);
    if (Math.abs(difference) >= boostThresholdLn(series, series.logManifold, index, assumptions.witnesses.pressure)) {
      const { mean: perLog, sd } = assumptions.sameAir.manifoldPressure;
      add('boost-changed', said('boost-changed', { differencePct: 100 * Math.expm1(difference) }), bySize(difference * (perLog + 2 * sd)));
    }
  } else if (isHeld(bundle)) stillIn.push('manifoldPressure');
  const ignition = ignitionDifferenceDeg(series, index, assumptions, levelled.story);
  if (!ignition) stillIn.push('ignition');
  else if (Math.abs(ignition.learningTakenOut) >= MEASURED_RULES.timingDeg) {
    const { mean: perDegree, sd } = assumptions.ignition;
    const sameMap = statedAlike(reference, candidate, 'tune') && !['fuel', 'ethanolPct'].some((key) => differs(reference, candidate, key));
    const follows = sameMap && followsCharge(day, index, ignition.learningTakenOut);
    stillIn.push('ignition');
    const what = said('timing-changed', { differenceDeg: ignition.learningTakenOut, follows });
    add('timing-changed', what, !follows && bySize(ignition.learningTakenOut * (perDegree + 2 * sd)));
  }
  const lambda = meansOf(input, (entry) => entry.curve && bandMean(entry.curve, 'lambda', input.band.band));
  if (!lambda) stillIn.push('mixture');
  else if (Math.abs(lambda.candidate - lambda.reference) >= MEASURED_RULES.lambda) {
    stillIn.push('mixture');
    const effect = largestLambdaEffect(lambda.reference, lambda.candidate);
    add('fuelling-changed', said('fuelling-changed', { differenceLambda: lambda.candidate - lambda.reference }), bySize(effect));
  }
  const meter = airMeterShift(day.pulls, reference.id, candidate.id, input.band.band);
  if (meter !== null) add('air-meter-disagrees', said('air-meter-disagrees', { differencePct: 100 * Math.expm1(meter) }), false, []);
  const coolant = meansOf(input, ({ start }) => start.coolantC);
  if (coolant && Math.abs(coolant.candidate - coolant.reference) >= MEASURED_RULES.coolantK)
    add('coolant-start-apart', said('coolant-apart', { differenceK: coolant.candidate - coolant.reference }), false);
  const weather = weatherSaid(input);
  if (weather) add('weather-out-of-range', weather, false);
  return { measured, stillIn };
}

const differs = (reference: Setup, candidate: Setup, key: string) =>
  reference.state[key] != null && candidate.state[key] != null && !statedAlike(reference, candidate, key);

function followsCharge({ series }: DaySeries, index: number, ignitionDeg: number): boolean {
  if (!series.chargeK) return false;
  const chargeK = setupMean(series, series.chargeK, index) - setupMean(series, series.chargeK, 0);
  if (Math.abs(chargeK) < MEASURED_RULES.chargeMovedK || Math.sign(chargeK) === Math.sign(ignitionDeg)) return false;
  return Math.abs(ignitionDeg) <= MEASURED_RULES.sparkPerKelvin * Math.abs(chargeK);
}

/** Logarithm of metered air over the air that injector time and lambda tell of, up to a constant of the engine; null where a channel is missing. */
export function airAgainstFuel({ curve }: AnalysedPull, band: Band): number | null {
  if (!curve) return null;
  const air = bandMean(curve, 'airMassFlow', band, Math.log);
  const injector = bandMean(curve, 'injectorTime', band, Math.log);
  const lambda = bandMean(curve, 'lambda', band, Math.log);
  return air === null || injector === null || lambda === null ? null : air - injector - lambda;
}

/** By how much the air meter reads against the fuel with one setup more than with the other, logarithm; null below what counts. */
export function airMeterShift(pulls: readonly AnalysedPull[], reference: string, candidate: string, band: Band): number | null {
  const of = (setup: string) => pulls.flatMap((entry) => (entry.pull.setup === setup ? [airAgainstFuel(entry, band)] : []));
  const [a, b] = [of(reference), of(candidate)];
  if (a.length === 0 || b.length === 0 || [...a, ...b].includes(null)) return null;
  const shift = mean(b as number[]) - mean(a as number[]);
  return Math.abs(shift) >= MEASURED_RULES.airMeter ? shift : null;
}

/** Means of a value over the compared pulls of reference and candidate; null where some pull lacks it. */
function meansOf(
  { day, reference, candidate }: Pick<CloudInput, 'day' | 'reference' | 'candidate'>,
  value: (entry: AnalysedPull) => number | null | undefined,
): { reference: number; candidate: number } | null {
  const of = (setup: string) => day.pulls.filter((entry) => entry.pull.setup === setup).map(value);
  const [a, b] = [of(reference.id), of(candidate.id)];
  if (a.length === 0 || b.length === 0 || [...a, ...b].some((entry) => entry == null || !Number.isFinite(entry))) return null;
  return { reference: mean(a as number[]), candidate: mean(b as number[]) };
}

function weatherSaid(input: CloudInput): AnySaid | null {
  const { correction } = input.bundle.programme;
  const standard = correction === 'NONE' ? 'SAE_J1349' : correction;
  const means = meansOf(input, ({ air }) => (air ? correctionFactor(standard, air) : null));
  if (!means) return null;
  const { factorLow: low, factorHigh: high, factorsApart } = MEASURED_RULES;
  if (Math.abs(means.reference - means.candidate) > factorsApart) return said('weather-apart', means);
  const factor = [means.reference, means.candidate].find((value) => value < low || value > high);
  return factor === undefined ? null : said('weather-outside', { factor, low, high });
}

function orderClouds({ day, reference, candidate }: CloudInput): Cloud[] {
  const own = (setup: Setup) => day.pulls.filter((entry) => entry.pull.setup === setup.id);
  const [a, b] = [own(reference), own(candidate)];
  const found: Cloud[] = [];
  const hours = (entries: AnalysedPull[]) => entries.map(({ place }) => place.timeH);
  if (isOrderConfounded(hours(a), hours(b)))
    found.push({ code: 'order-confounded', said: said('order-confounded', {}), affects: [], withholds: [] });
  const single = [reference, candidate].filter((setup) => own(setup).length === 1).map(({ id }) => id);
  if (single.length > 0) found.push({ code: 'single-pull', said: said('single-pull', { setups: single }), affects: [], withholds: [] });
  const days = (entries: AnalysedPull[]) => new Set(entries.map(({ place }) => place.day));
  const [daysA, daysB] = [days(a), days(b)];
  if ([...daysA].some((entry) => !daysB.has(entry)) || [...daysB].some((entry) => !daysA.has(entry))) {
    const bridged = isBridged(day.pulls, new Set([...daysA, ...daysB]));
    found.push({ code: 'different-day', said: said('different-day', {}), affects: ['power'], withholds: bridged ? [] : ['power'] });
  }
  return [...found, ...cellClouds(a, b)];
}

/** Whether pulls of a reference and of a candidate were driven in different cells, and the reference not in all of them. */
export function cellClouds(reference: readonly AnalysedPull[], candidate: readonly AnalysedPull[]): Cloud[] {
  const cellOf = ({ pull }: AnalysedPull) => pull.cell ?? '';
  const cells = [...new Set([...reference, ...candidate].map(cellOf))];
  if (cells.length <= 1 || cells.every((cell) => reference.some((entry) => cellOf(entry) === cell))) return [];
  const affects: Affected[] = ['power', 'temperature'];
  return [{ code: 'different-cell', said: said('different-cell', { cells }), affects, withholds: affects }];
}

/** Whether some setup ran on all of the days. */
function isBridged(pulls: readonly AnalysedPull[], days: ReadonlySet<string>): boolean {
  return [...new Set(pulls.map(({ pull }) => pull.setup))].some((setup) => {
    const own = new Set(pulls.filter(({ pull }) => pull.setup === setup).map(({ place }) => place.day));
    return [...days].every((day) => own.has(day));
  });
}

function flagClouds({ pulls, reference, candidate, band }: CloudInput): Cloud[] {
  const found = Object.values(CHECKS).flatMap(({ flag, ofSetup }): Cloud[] => {
    if (!ofSetup) return [];
    const setups = [reference.id, candidate.id].filter((setup) => onEveryPull(pulls, setup, flag));
    return setups.length === 0 ? [] : [{ code: flag, said: said('flag-of-setups', { flag, setups }), ...ofSetup }];
  });
  const closed = { code: 'throttle-closed', affects: ['power'], withholds: [] } as const;
  if (band.cappedAlike) found.push({ ...closed, said: said('throttle-closed-alike', {}) });
  if (band.cappedSetup) found.push({ ...closed, said: said('throttle-closed-above', { setup: band.cappedSetup, aboveRpm: band.band[1] }) });
  return found;
}
