import { isHeld } from '../checks/boost-low.js';
import type { EstimatePct } from '@gezeit/contract';
import { JudgedDay } from '../judge/estimates.js';
import { withinSetup, type PullSeries } from '../judge/series.js';
import { smoothed } from '../pull/band.js';
import { GRID_STEP_RPM } from '../pull/resample.js';
import { pullFactor, type AnalysedPull } from './analysed-pull.js';
import { daySeries, logMetric, type DaySeries } from './day-series.js';
import { pctOf, quoted, type JudgedPair, type PairJudge } from './judged-pair.js';
import { movedSensors } from './state-clouds.js';
import { normalCdf, standardNormalQuantile } from '../numeric/distributions.js';
import { interpolate } from '../numeric/interpolate.js';

/** Step of the points at which a difference is judged over engine speed, rpm. */
const JUDGED_STEP_RPM = 100;
/** Points on either side over which the residual spread is pooled. */
const POOLED_NEIGHBOURS = 2;
/** Over so much engine speed what is left of a difference keeps its course, rpm; for the simultaneous band. Assumption, on the safe side. */
export const COURSE_RPM = 250;

/**
 * By how much a pointwise 95 % interval is widened so that a whole curve stays inside: the largest studentised deviation of a smooth Gaussian
 * course over a range of engine speed, by its expected number of crossings (Rice 1945; Davies 1987, on the safe side).
 */
export function wholeCurveFactor(rangeRpm: number): number {
  const crossings = rangeRpm / (2 * Math.PI * COURSE_RPM);
  const outside = (u: number) => 2 * (1 - normalCdf(u)) + 2 * crossings * Math.exp(-0.5 * u * u);
  let [low, high] = [1.9, 6];
  while (high - low > 1e-6) {
    const middle = (low + high) / 2;
    if (outside(middle) > 0.05) low = middle;
    else high = middle;
  }
  return high / standardNormalQuantile(0.975);
}

/** Corrected power of a pull over engine speed, W: smoothed over 200 rpm; NaN where it is not covered. */
export function correctedPower({ bundle }: Pick<PairJudge, 'bundle'>, entry: AnalysedPull): (rpm: number) => number {
  const { curve } = entry;
  const factor = pullFactor(bundle.programme.correction, entry) ?? 1;
  const smooth = smoothed(curve!.channels.get('power')!);
  return (rpm) => factor * interpolate(curve!.gridRpm, smooth, rpm);
}

/** Engine speeds, multiples of a step, that every one of some pulls covers. */
export function commonSpeeds(pulls: readonly AnalysedPull[], stepRpm: number): number[] {
  const low = Math.max(...pulls.map(({ curve }) => curve!.gridRpm[4] ?? Infinity));
  const high = Math.min(...pulls.map(({ curve }) => curve!.gridRpm.at(-5) ?? -Infinity));
  const first = Math.ceil(low / stepRpm);
  const count = Math.floor(high / stepRpm) - first + 1;
  return Array.from({ length: Math.max(0, count) }, (_, i) => (first + i) * stepRpm);
}

/** The difference of one pair at single engine speeds: the estimate that the pair quotes, point by point. */
export class PointDifference {
  readonly of: 'levelled' | 'ownStart';
  /** Engine speeds at which it can be judged. */
  readonly speedsRpm: number[];
  readonly #powers: ((rpm: number) => number)[];
  readonly #judged: JudgedDay;

  private constructor(
    readonly judge: PairJudge,
    readonly pair: JudgedPair,
    readonly day: DaySeries,
  ) {
    this.of = quoted(pair).estimate ? quoted(pair).of : 'levelled';
    this.speedsRpm = commonSpeeds(day.pulls, JUDGED_STEP_RPM);
    this.#powers = day.pulls.map((entry) => correctedPower(judge, entry));
    this.#judged = new JudgedDay(day.series, judge.assumptions, isHeld(judge.bundle));
  }

  /** Null where the pair has no logged power with both setups. */
  static of(judge: PairJudge, pair: JudgedPair): PointDifference | null {
    const { reference, candidate, band, terms } = pair;
    const own = judge.pulls.filter(
      (entry) => entry.curve?.channels.has('power') && (entry.pull.setup === reference.id || entry.pull.setup === candidate.id),
    );
    const dropStart = movedSensors(reference, candidate).includes('intakeAirTemperature');
    const day = daySeries(own, reference.id, band.band, logMetric(judge.bundle, terms.metric), dropStart);
    return day && day.setups.length > 1 ? new PointDifference(judge, pair, day) : null;
  }

  /** The difference at an engine speed with its pointwise interval; null where the pulls do not reach it. The noise of a point is the day's, scaled by the spread pooled over its neighbours. */
  at(rpm: number): EstimatePct | null {
    const series = this.#seriesAt(rpm);
    if (!series) return null;
    const { noise } = this.judge.assumptions;
    const around = Array.from({ length: 2 * POOLED_NEIGHBOURS + 1 }, (_, k) =>
      this.#seriesAt(rpm + (k - POOLED_NEIGHBOURS) * JUDGED_STEP_RPM),
    );
    const spreads = around.flatMap((entry) => (entry ? [spread(entry)] : []));
    const pooled = Math.sqrt(spreads.reduce((sum, value) => sum + value ** 2, 0) / spreads.length);
    const scale = Math.max(1, pooled / Math.max(1e-6, spread(this.day.series)));
    const { fit } = this.#judged[this.of]({ value: series.value, noise: { ...noise, mid: noise.mid * scale } });
    return pctOf(fit.estimates[0]!);
  }

  /** The same with the interval of the band that holds the whole curve: for ranges that are called real, and for a claim that was made after the curve was seen. */
  wholeCurveAt(rpm: number): EstimatePct | null {
    const point = this.at(rpm);
    if (!point) return null;
    const factor = wholeCurveFactor(this.speedsRpm.at(-1)! - this.speedsRpm[0]!);
    return { pct: point.pct, low: point.pct - factor * (point.pct - point.low), high: point.pct + factor * (point.high - point.pct) };
  }

  /** Mean corrected power of a setup's pulls at an engine speed, W. */
  powerW(setup: string, rpm: number): number {
    const own = this.#powers.filter((_, i) => this.day.pulls[i]!.pull.setup === setup).map((power) => power(rpm));
    return own.reduce((sum, value) => sum + value, 0) / own.length;
  }

  #seriesAt(rpm: number): PullSeries | null {
    const value = this.#powers.map((power) => Math.log(power(Math.max(rpm, GRID_STEP_RPM))));
    return value.every(Number.isFinite) ? { ...this.day.series, value } : null;
  }
}

function spread(series: PullSeries): number {
  const deviations = withinSetup(series, series.value);
  return Math.sqrt(deviations.reduce((sum, value) => sum + value * value, 0) / Math.max(1, series.setup.length - 2));
}
