import type { Bundle, EstimatePct, Metric, Setup } from '@gezeit/contract';
import { isHeld } from '../checks/boost-low.js';
import type { Assumptions } from '../judge/assumptions.js';
import { JudgedDay, type FourEstimates } from '../judge/estimates.js';
import type { Estimate, Fit, Mixture } from '../judge/fit.js';
import { percentOf } from '../judge/verdict.js';
import type { Band } from '../pull/band.js';
import { said, type AnySaid } from '../said.js';
import type { AnalysedPull } from './analysed-pull.js';
import type { Cloud } from './cloud.js';
import { cloudsOf, conditionClouds, type Clouds } from './clouds.js';
import { daySeries, logMetric, type DaySeries } from './day-series.js';
import { ownStartMissing } from './own-start.js';
import { movedSensors, stateClouds } from './state-clouds.js';
import type { PowerTerms } from './terms.js';
import { LEAST_BAND_SHARE, usedBand, type UsedBand } from './used-band.js';

/** Which estimate is quoted, and why there is none. */
export interface Quoted {
  of: 'levelled' | 'ownStart';
  estimate: EstimatePct | null;
  /** Why the estimate that was asked for cannot be had. */
  reason: AnySaid | null;
}

/** A day's pulls under one band and metric, with the estimates of every candidate and the fits that they average. */
interface FittedDay {
  day: DaySeries;
  fits: FourEstimates;
  levelled: Mixture;
  sameAir: Mixture;
}

/** One pair of setups, judged under one set of terms: everything that an answer about power may say of it. */
export interface JudgedPair {
  terms: PowerTerms;
  reference: Setup;
  candidate: Setup;
  band: UsedBand;
  /** The day and its fits; null where one of the two has no pull that gives the metric. */
  fitted: (FittedDay & { index: number }) | null;
  /** Setups without such a pull, by name. */
  missing: string[];
  asRun: EstimatePct | null;
  levelled: EstimatePct | null;
  ownStart: EstimatePct | null;
  sameAir: EstimatePct | null;
  /** The asked band as driven, closed throttle included; null where the band is not cut. */
  wholeBand: EstimatePct | null;
  reasons: { ownStart: AnySaid | null; sameAir: AnySaid | null; wholeBand: AnySaid | null };
  clouds: Cloud[];
  stillIn: Clouds['stillIn'];
  bandWithheld: AnySaid | null;
}

/**
 * The estimate that answers a pair under its terms, and the only place where one is chosen: headline, board, curve, answers and claims quote
 * this and no other.
 */
export function quoted({ terms, levelled, ownStart, reasons }: JudgedPair): Quoted {
  return terms.start === 'own'
    ? { of: 'ownStart', estimate: ownStart, reason: reasons.ownStart }
    : { of: 'levelled', estimate: levelled, reason: null };
}

/** Per cent of an estimate of a logarithm. */
export function pctOf({ value, low, high }: Estimate): EstimatePct {
  return { pct: percentOf(value), low: percentOf(low), high: percentOf(high) };
}

/** The pulls of a bundle, judged pair by pair; what several pairs and questions share is computed once. */
export class PairJudge {
  readonly #days = new Map<string, FittedDay | null>();
  readonly #pairs = new Map<string, JudgedPair>();

  constructor(
    readonly bundle: Bundle,
    readonly pulls: AnalysedPull[],
    readonly assumptions: Assumptions,
  ) {}

  /** A pair under terms. */
  judge(reference: Setup, candidate: Setup, terms: PowerTerms): JudgedPair {
    const key = JSON.stringify([reference.id, candidate.id, terms]);
    if (!this.#pairs.has(key)) this.#pairs.set(key, this.#judge(reference, candidate, terms));
    return this.#pairs.get(key)!;
  }

  #judge(reference: Setup, candidate: Setup, terms: PowerTerms): JudgedPair {
    const { bundle, pulls, assumptions } = this;
    const band = usedBand(terms.bandRpm, pulls, [reference.id, candidate.id]);
    const dropStart = movedSensors(reference, candidate).includes('intakeAirTemperature');
    const fitted = this.#fit(reference.id, band.band, terms.metric, dropStart);
    const index = fitted?.day.setups.indexOf(candidate.id) ?? -1;
    const base = { terms, reference, candidate, band };
    if (!fitted || index < 1) return this.#empty(base);
    const { day, fits } = fitted;
    const of = (fit: Fit) => pctOf(fit.estimates[index - 1]!);
    const noOwnStart = ownStartMissing(day.pulls, reference, candidate, bundle.plan?.gates ?? []);
    const smallest = terms.smallestPct / 100;
    const { clouds, stillIn } = cloudsOf({
      bundle,
      reference,
      candidate,
      pulls,
      day,
      band,
      levelled: fits.levelled,
      assumptions,
      smallest,
    });
    const whole = band.cappedSetup ? this.#whole(reference, candidate, terms, dropStart) : null;
    const noCharge = day.series.chargeK === null ? said('no-charge-temperature', {}) : null;
    return {
      ...base,
      fitted: { ...fitted, index },
      missing: [],
      asRun: of(fits.asRun),
      levelled: of(fits.levelled),
      ownStart: noOwnStart ? null : of(fits.ownStart),
      sameAir: noCharge ? null : of(fits.sameAir),
      wholeBand: whole === null ? null : terms.start === 'own' && noOwnStart ? null : whole,
      reasons: {
        ownStart: noOwnStart,
        sameAir: noCharge,
        wholeBand: whole !== null && terms.start === 'own' ? noOwnStart : null,
      },
      clouds,
      stillIn,
      bandWithheld:
        band.share < LEAST_BAND_SHARE ? said('too-little-band', { sharePct: 100 * band.share, needPct: 100 * LEAST_BAND_SHARE }) : null,
    };
  }

  /** The leading estimate over the asked band, the closed part of it included. */
  #whole(reference: Setup, candidate: Setup, { bandRpm, metric, start }: PowerTerms, dropStart: boolean): EstimatePct | null {
    const fitted = this.#fit(reference.id, bandRpm, metric, dropStart);
    const index = fitted?.day.setups.indexOf(candidate.id) ?? -1;
    if (!fitted || index < 1) return null;
    return pctOf((start === 'own' ? fitted.fits.ownStart : fitted.fits.levelled).estimates[index - 1]!);
  }

  #fit(reference: string, band: Band, metric: Metric, dropStart: boolean): FittedDay | null {
    const key = JSON.stringify([reference, band, metric, dropStart]);
    if (!this.#days.has(key)) {
      const day = daySeries(this.pulls, reference, band, logMetric(this.bundle, metric), dropStart);
      this.#days.set(key, day && day.setups.length > 1 ? this.#fitDay(day) : null);
    }
    return this.#days.get(key)!;
  }

  #fitDay(day: DaySeries): FittedDay {
    const judged = new JudgedDay(day.series, this.assumptions, isHeld(this.bundle));
    const [levelled, sameAir] = [judged.levelled(), judged.sameAir()];
    const fits = { asRun: judged.asRun().fit, levelled: levelled.fit, ownStart: judged.ownStart().fit, sameAir: sameAir.fit };
    return { day, fits, levelled, sameAir };
  }

  #empty(base: Pick<JudgedPair, 'terms' | 'reference' | 'candidate' | 'band'>): JudgedPair {
    const { reference, candidate, terms } = base;
    const value = logMetric(this.bundle, terms.metric);
    const missing = [reference, candidate]
      .filter(({ id }) => !this.pulls.some((entry) => entry.used && entry.pull.setup === id && value(entry, base.band.band) !== null))
      .map(({ name }) => name);
    const none = said('no-used-pull', { setups: missing });
    return {
      ...base,
      fitted: null,
      missing,
      asRun: null,
      levelled: null,
      ownStart: null,
      sameAir: null,
      wholeBand: null,
      reasons: { ownStart: none, sameAir: none, wholeBand: null },
      clouds: [...stateClouds(reference, candidate).clouds, ...conditionClouds(this.bundle)],
      stillIn: [],
      bandWithheld: null,
    };
  }
}
