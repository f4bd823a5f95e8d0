import type { Cause, Contribution } from '@gezeit/contract';
import { isHeld } from '../checks/boost-low.js';
import { airMeterShift } from '../compare/clouds.js';
import { pullFactor, type AnalysedPull } from '../compare/analysed-pull.js';
import type { JudgedPair, PairJudge } from '../compare/judged-pair.js';
import { movedSensors, stateClouds } from '../compare/state-clouds.js';
import { LAMBDA_CURVE } from '../judge/confound-rules.js';
import type { Estimate } from '../judge/fit.js';
import { ignitionDifferenceDeg } from '../judge/ignition-difference.js';
import { partDifference } from '../judge/taken-out.js';
import { percentOf } from '../judge/verdict.js';
import { mean, sumOfSquares } from '../numeric/means.js';
import { bandMean } from '../pull/band.js';
import { said, type AnySaid } from '../said.js';

/** What the split assumes beside the judgement's own beliefs; each stands in the list of assumptions. */
export const SPLIT_RULES = {
  /** Power per air mass flow, as logarithms: 0.9 to 1.18 (formula j1). */
  airExponent: { mean: 1, sd: 0.07 },
  /** Scatter of a logged air mass flow from pull to pull, as a logarithm, worth so many pulls. */
  airFlowScatter: { sd: 0.004, pulls: 4 },
  /** What the weather took is known to this share of itself: the schools of correction differ by about twice as much. */
  weatherShareSd: 0.25,
  /** Scatter of a logged lambda from pull to pull. */
  lambdaScatterSd: 0.006,
};

type Row = { value: Estimate; restsOn: string[] } | { reason: AnySaid };
const TWO_SIDED = 1.96;
const around = (value: number, sd: number): Estimate => ({ value, low: value - TWO_SIDED * sd, high: value + TWO_SIDED * sd });
const sdOf = ({ low, high }: Estimate) => (high - low) / (2 * TWO_SIDED);
const notLogged = (what: string): Row => ({ reason: said('cause-not-logged', { what }) });

/**
 * The split of a difference (method of section 6): what each step took out, uncorrected → weather → as run → heat state, drift, learning, oil →
 * levelled → charge temperature, manifold pressure → same air → breathing, ignition, mixture → unexplained. A row is what the number before
 * the step held of that cause; each step's rows add up, as logarithms, to the difference of its two ends. Where same air cannot be had, the last
 * step begins at levelled. Empty without pulls.
 */
export function contributionsOf(judge: PairJudge, pair: JudgedPair, uncorrected: Estimate | null): Contribution[] {
  const { fitted, sameAir } = pair;
  if (!fitted) return [];
  const { fits, index, levelled, day } = fitted;
  const { series } = day;
  const of = (name: 'asRun' | 'levelled' | 'sameAir') => fits[name].estimates[index - 1]!;
  const row = (cause: Cause, { value, restsOn }: { value: Estimate; restsOn: string[] }): Contribution => ({
    cause,
    pct: percentOf(value.value),
    low: percentOf(value.low),
    high: percentOf(value.high),
    reason: null,
    restsOn,
    said: {},
  });
  const written = (cause: Cause, found: Row): Contribution =>
    'value' in found
      ? row(cause, found)
      : { cause, pct: null, low: null, high: null, reason: '', restsOn: [], said: { reason: [found.reason] } };
  const rows: Contribution[] = [written('weather', weatherRow(judge, of('asRun'), uncorrected))];

  const causes = [
    ['heatState', ['intakeAirTemperature'], series.startIntakeK],
    ['drift', [], series.timeH],
    ['learning', series.ignitionDeg ? ['ignitionAdvance'] : [], series.timeH],
    ['oil', ['oilTemperature'], series.oilK],
  ] as const;
  let taken = 0;
  for (const [cause, restsOn, known] of causes) {
    const value = known && partDifference(levelled, { candidate: index, causes: [cause] });
    if (!value) {
      const moved = cause === 'heatState' && day.leftOut.some(({ code }) => code === 'start-sensor-moved');
      rows.push(written(cause, moved ? { reason: said('start-sensor-moved', {}) } : notLogged(restsOn[0] ?? cause)));
      continue;
    }
    taken += value.value;
    // What ignition has seen of the learning is power only by the power per degree, which is itself believed within limits.
    const { mean: perDegree, sd } = judge.assumptions.ignition;
    const seen = cause === 'learning' && series.ignitionDeg ? (sd / perDegree) * value.value : 0;
    rows.push(row(cause, { value: widened(value, seen), restsOn: [...restsOn] }));
  }
  const whole = partDifference(levelled, { candidate: index, causes: causes.map(([cause]) => cause), withEffect: true })!;
  const asRun = of('asRun').value;
  rows.push(row('weighting', { value: turned(asRun, whole, asRun - of('levelled').value - taken), restsOn: [] }));
  return [...rows, ...airRows(judge, pair, row, written, sameAir !== null), ...lastRows(judge, pair, row, written)];
}

/** An estimate with an independent standard deviation more. */
const widened = ({ value, low, high }: Estimate, sd: number): Estimate => ({
  value,
  low: value - Math.hypot(value - low, TWO_SIDED * sd),
  high: value + Math.hypot(high - value, TWO_SIDED * sd),
});

/** A value minus an estimate: its ends change places. @param value the middle, so that the rows add up exactly. */
const turned = (from: number, { low, high }: Estimate, value: number): Estimate => ({ value, low: from - high, high: from - low });

function weatherRow({ bundle }: PairJudge, asRun: Estimate, uncorrected: Estimate | null): Row {
  if (bundle.programme.correction === 'NONE') return { reason: said('cause-not-corrected', {}) };
  if (!uncorrected) return notLogged('weather');
  const value = uncorrected.value - asRun.value;
  return { value: around(value, SPLIT_RULES.weatherShareSd * Math.abs(value)), restsOn: ['ambientTemperature', 'ambientPressure'] };
}

type Rows = (cause: Cause, found: { value: Estimate; restsOn: string[] }) => Contribution;
type Written = (cause: Cause, found: Row) => Contribution;

/** From levelled to same air. What the start already took is not taken twice: it shows in the charge temperature too. */
function airRows({ bundle }: PairJudge, pair: JudgedPair, row: Rows, written: Written, has: boolean): Contribution[] {
  const { day, fits, index, levelled, sameAir } = pair.fitted!;
  const { series } = day;
  const noPressure: Row = isHeld(bundle) ? notLogged('manifoldPressure') : { reason: said('cause-own-doing', {}) };
  if (!has) {
    return [written('chargeTemperature', notLogged('chargeTemperature')), written('manifoldPressure', noPressure)];
  }
  const charge = partDifference(sameAir, { candidate: index, causes: ['chargeTemperature'] })!;
  const start = partDifference(levelled, { candidate: index, causes: ['heatState'] });
  const chargeValue = charge.value - (start?.value ?? 0);
  const pressure = partDifference(sameAir, { candidate: index, causes: ['manifoldPressure'] });
  const whole = partDifference(sameAir, { candidate: index, causes: ['chargeTemperature', 'manifoldPressure'], withEffect: true })!;
  // Two fits of the same pulls: what they differ by is uncertain by the difference of their variances (Hausman 1978).
  const before = partDifference(levelled, { candidate: index, causes: ['heatState'], withEffect: true })!;
  const of = (name: 'levelled' | 'sameAir') => fits[name].estimates[index - 1]!.value;
  const rest = of('levelled') - of('sameAir') - chargeValue - (pressure?.value ?? 0);
  const restsOn: string[] = ['chargeTemperature', ...(series.startIntakeK ? (['intakeAirTemperature'] as const) : [])];
  return [
    row('chargeTemperature', { value: around(chargeValue, Math.hypot(sdOf(charge), start ? sdOf(start) : 0)), restsOn }),
    pressure ? row('manifoldPressure', { value: pressure, restsOn: ['manifoldPressure'] }) : written('manifoldPressure', noPressure),
    row('weighting', { value: around(rest, Math.sqrt(Math.abs(sdOf(whole) ** 2 - sdOf(before) ** 2))), restsOn: [] }),
  ];
}

/** What is left at the same charge air, by what was logged of it; the rest is named as unexplained. */
function lastRows(judge: PairJudge, pair: JudgedPair, row: Rows, written: Written): Contribution[] {
  const { fits, index } = pair.fitted!;
  const end = (pair.sameAir ? fits.sameAir : fits.levelled).estimates[index - 1]!;
  const found: [Cause, Row][] = [
    ['breathing', breathingRow(judge, pair)],
    ['ignition', ignitionRow(judge, pair)],
    ['mixture', mixtureRow(pair)],
  ];
  let left = end.value;
  let variance = sdOf(end) ** 2;
  for (const [, entry] of found) {
    if (!('value' in entry)) continue;
    left -= entry.value.value;
    variance += sdOf(entry.value) ** 2;
  }
  return [
    ...found.map(([cause, entry]) => written(cause, entry)),
    row('unexplained', { value: around(left, Math.sqrt(variance)), restsOn: [] }),
  ];
}

/** Air mass flow at the same charge air, as power; without a meter, and where nothing holds it, manifold pressure. */
function breathingRow({ bundle, assumptions }: PairJudge, pair: JudgedPair): Row {
  const { reference, candidate, band } = pair;
  const { day, index } = pair.fitted!;
  const { series } = day;
  const held = isHeld(bundle);
  const { manifoldPressure, chargeTemperature } = assumptions.sameAir;
  const contrast = (values: readonly number[]) => meanOf(series.setup, values, index) - meanOf(series.setup, values, 0);
  const flows = day.pulls.map((entry) => logFlow(entry, pair, held ? null : bundle.programme.correction));
  if (flows.includes(null)) {
    if (held || !series.logManifold) return notLogged('airMassFlow');
    const value = contrast(series.logManifold);
    const sd = Math.hypot(manifoldPressure.mean * scatterSd(series.setup, series.logManifold, index), manifoldPressure.sd * value);
    return { value: around(manifoldPressure.mean * value, sd), restsOn: ['manifoldPressure'] };
  }
  const meterChanged = stateClouds(reference, candidate).clouds.some(({ code }) => code === 'air-meter-changed');
  if (meterChanged || movedSensors(reference, candidate).includes('airMassFlow')) return { reason: said('cause-meter-changed', {}) };
  if (airMeterShift(day.pulls, reference.id, candidate.id, band.band) !== null) return { reason: said('cause-meter-disagrees', {}) };
  const flow = contrast(flows as number[]);
  const charge = series.chargeK && pair.sameAir ? contrast(series.chargeK.map(Math.log)) : 0;
  const pressure = held && series.logManifold && pair.sameAir ? contrast(series.logManifold) : 0;
  const air = flow - pressure - chargeTemperature.mean * charge;
  const { airExponent } = SPLIT_RULES;
  const sd = Math.hypot(
    airExponent.mean * scatterSd(series.setup, flows as number[], index),
    airExponent.sd * air,
    chargeTemperature.sd * charge,
  );
  const restsOn: string[] = ['airMassFlow', ...(held ? (['manifoldPressure'] as const) : [])];
  return { value: around(airExponent.mean * air, sd), restsOn };
}

/** Logarithm of a pull's mean air mass flow in the band; brought to the reference weather where a correction is given. */
function logFlow(entry: AnalysedPull, { band }: JudgedPair, correction: Parameters<typeof pullFactor>[0] | null): number | null {
  const flow = entry.curve ? bandMean(entry.curve, 'airMassFlow', band.band, Math.log) : null;
  const factor = correction === null ? 1 : pullFactor(correction, entry);
  return flow === null || factor === null ? null : flow + Math.log(factor);
}

/**
 * By how much ignition differs beyond what learning and a hotter start explain, degrees, with its standard deviation; null where it is not logged
 * with every pull.
 */
export function ignitionApart({ assumptions }: PairJudge, pair: JudgedPair): { degrees: number; sd: number } | null {
  const { day, fits, index } = pair.fitted!;
  const { series } = day;
  const difference = ignitionDifferenceDeg(series, index, assumptions, fits.levelled.story);
  if (!difference) return null;
  // What a hotter start takes of the ignition is in the heat state already.
  const starts = series.startIntakeK;
  const startK = starts ? meanOf(series.setup, starts, index) - meanOf(series.setup, starts, 0) : 0;
  const degrees = difference.learningTakenOut - assumptions.ignitionPerKelvin.mean * startK;
  const { scatterDeg, readingDeg } = assumptions.witnesses.ignition;
  const scatter = Math.hypot(scatterDeg, readingDeg) * Math.sqrt(1 / countOf(series.setup, 0) + 1 / countOf(series.setup, index));
  return { degrees, sd: Math.hypot(scatter, assumptions.ignitionPerKelvin.sd * startK) };
}

function ignitionRow(judge: PairJudge, pair: JudgedPair): Row {
  const apart = ignitionApart(judge, pair);
  if (!apart) return notLogged('ignitionAdvance');
  const { mean: perDegree, sd } = judge.assumptions.ignition;
  const spread = Math.hypot(perDegree * apart.sd, sd * apart.degrees);
  return { value: around(perDegree * apart.degrees, spread), restsOn: ['ignitionAdvance'] };
}

function mixtureRow(pair: JudgedPair): Row {
  const { day, index } = pair.fitted!;
  const lambdas = day.pulls.map(({ curve }) => (curve ? bandMean(curve, 'lambda', pair.band.band) : null));
  if (lambdas.includes(null)) return notLogged('lambda');
  const { setup } = day.series;
  const [from, to] = [meanOf(setup, lambdas as number[], 0), meanOf(setup, lambdas as number[], index)];
  const [least, most] = LAMBDA_CURVE.best;
  const [flat, sharp] = LAMBDA_CURVE.curvature;
  const effect = (best: number, curvature: number) => {
    const power = (lambda: number) => Math.log(Math.max(0.5, 1 - curvature * (lambda - best) ** 2));
    return power(to) - power(from);
  };
  const [best, curvature] = [(least + most) / 2, LAMBDA_CURVE.usual];
  const value = effect(best, curvature);
  const ends = [effect(least, flat), effect(least, sharp), effect(most, flat), effect(most, sharp)];
  const slope = (Math.abs(effect(best, curvature)) + 1e-9) / Math.max(1e-4, Math.abs(to - from));
  const reading = slope * SPLIT_RULES.lambdaScatterSd * Math.sqrt(1 / countOf(setup, 0) + 1 / countOf(setup, index));
  const furthest = Math.max(...ends.map((end) => Math.abs(end - value)));
  return { value: around(value, Math.hypot(furthest / TWO_SIDED, reading)), restsOn: ['lambda'] };
}

const countOf = (setup: readonly number[], which: number) => setup.filter((own) => own === which).length;
const valuesOf = (setup: readonly number[], values: readonly number[], which: number) => values.filter((_, i) => setup[i] === which);
const meanOf = (setup: readonly number[], values: readonly number[], which: number) => mean(valuesOf(setup, values, which));

/** Standard deviation of a difference of two setups' means of a logged logarithm: its scatter within setups, and what is assumed of it. */
function scatterSd(setup: readonly number[], values: readonly number[], index: number): number {
  const { sd, pulls } = SPLIT_RULES.airFlowScatter;
  const [a, b] = [valuesOf(setup, values, 0), valuesOf(setup, values, index)];
  const variance = (pulls * sd * sd + sumOfSquares(a) + sumOfSquares(b)) / (pulls + a.length + b.length - 2);
  return Math.sqrt(variance * (1 / a.length + 1 / b.length));
}
