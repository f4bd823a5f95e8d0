import type { Bundle, Comparison, Confound, EstimatePct, PowerVerdict, Question, Setup } from '@gezeit/contract';
import type { Assumptions } from '../judge/assumptions.js';
import { fitAsRun, fourEstimates, type FourEstimates } from '../judge/estimates.js';
import type { Estimate, Fit } from '../judge/fit.js';
import { morePulls, MOST_FURTHER_PULLS } from '../judge/more-pulls.js';
import { achievedResolution } from '../judge/resolution.js';
import { gainVerdict, insideSmallest, percentOf } from '../judge/verdict.js';
import { isHeld } from '../pull/flags.js';
import { median } from '../pull/traces.js';
import { pullBoostedFactor, type AnalysedPull, metricValue } from './analysed-pull.js';
import { answerOf } from './answers.js';
import { changedNotes } from './assumption-list.js';
import { confoundsOf, movedSensors, stateConfounds } from './confounds.js';
import { daySeries, logMetric, type DaySeries, type ValueOf } from './day-series.js';
import { ownStartMissing } from './own-start.js';
import { listed, signed, withInterval } from './text.js';
import { LEAST_BAND_SHARE, usedBand, type UsedBand } from './used-band.js';

/** The questions of a programme; without any there is one, the ordinary power question. */
export function questionsOf({ programme }: Bundle): Question[] {
  if (programme.questions?.length) return programme.questions;
  return [{ id: 'q1', kind: 'power-gain', smallest: programme.smallestGainPct, unit: 'pct', start: 'same' }];
}

/** A day's columns with its four fits; comparisons with one reference and band share them. */
interface FittedDay {
  day: DaySeries;
  fits: FourEstimates;
}

/** Fits each day once, however many comparisons ask for it. */
export class DayFits {
  readonly #known = new Map<string, FittedDay | null>();

  constructor(
    readonly bundle: Bundle,
    readonly pulls: AnalysedPull[],
    readonly assumptions: Assumptions,
  ) {}

  of(reference: string, { band }: UsedBand, dropStart: boolean): FittedDay | null {
    const key = `${reference}/${band.join('-')}/${dropStart}`;
    if (!this.#known.has(key)) this.#known.set(key, this.#fit(reference, band, dropStart));
    return this.#known.get(key)!;
  }

  #fit(reference: string, band: UsedBand['band'], dropStart: boolean): FittedDay | null {
    const { assumptions } = this;
    const day = daySeries(this.pulls, reference, band, logMetric(this.bundle), dropStart);
    if (!day || day.setups.length < 2) return null;
    return { day, fits: fourEstimates(day.series, assumptions, isHeld(this.bundle)) };
  }
}

/** Compares a candidate with a reference. */
export function compare(days: DayFits, reference: Setup, candidate: Setup): Comparison {
  const { bundle, pulls, assumptions } = days;

  const band = usedBand(bundle, pulls, [reference.id, candidate.id]);
  const dropStart = movedSensors(reference, candidate).includes('intakeAirTemperature');
  const fitted = days.of(reference.id, band, dropStart);
  const index = fitted?.day.setups.indexOf(candidate.id) ?? -1;
  if (!fitted || index < 1) return emptyComparison(bundle, pulls, reference, candidate, band, assumptions);
  const { day, fits } = fitted;
  const of = (fit: Fit): Estimate => fit.estimates[index - 1]!;
  const ownStartReason = ownStartMissing(pulls, reference, candidate, bundle.plan?.gates ?? []);
  const asksOwnStart = questionsOf(bundle).some(({ kind, start }) => start === 'own' && kind.startsWith('power'));
  const leadsOwn = asksOwnStart && ownStartReason === null;
  const leading = leadsOwn ? of(fits.ownStart) : of(fits.levelled);
  const smallestGain = bundle.programme.smallestGainPct / 100;
  const confounds = confoundsOf({
    bundle,
    reference,
    candidate,
    pulls,
    day,
    band,
    levelled: fits.levelled,
    assumptions,
    leading: leading.value,
    smallestGain,
  });
  const notes = [...changedNotes(bundle), ...day.leftOut, ...unknownKeys(reference, candidate), ...bandNotes(bundle, band)];
  if (asksOwnStart && !leadsOwn) notes.push(`The question asks for the part's own start, which cannot be judged: ${ownStartReason}`);
  const bandWithheld = band.share < LEAST_BAND_SHARE ? `only ${Math.round(100 * band.share)} % of the band could be compared` : null;
  const verdict = powerVerdict({
    candidate,
    reference,
    leading: pct(leading),
    smallestPct: bundle.programme.smallestGainPct,
    confounds,
    band,
    bandWithheld,
    leadsOwn,
  });
  const resolution = achievedResolution(leading.low, leading.high);
  const more = furtherPulls(bundle, day, index, fits.levelled.noise, verdict.power, assumptions, pulls);
  return {
    reference: reference.id,
    candidate: candidate.id,
    bandUsedRpm: [band.band[0], band.band[1]],
    asRun: pct(of(fits.asRun)),
    levelled: pct(of(fits.levelled)),
    ownStart: ownStartReason === null ? pct(of(fits.ownStart)) : null,
    ownStartReason,
    sameAir: pct(of(fits.sameAir)),
    uncorrected: plainDifference(pulls, reference, candidate, band, logMetric(bundle, 'NONE'), assumptions),
    boostedEstimate: boostedDifference(bundle, pulls, reference, candidate, band, assumptions),
    contributions: [],
    verdict,
    answers: questionsOf(bundle).map((question) =>
      answerOf(question, {
        pulls,
        reference: reference.id,
        candidate: candidate.id,
        band: band.band,
        leading: pct(leading),
        levelled: pct(of(fits.levelled)),
        confounds,
        bandWithheld,
        smallestGainPct: bundle.programme.smallestGainPct,
        powerAnswer: { answer: verdict.power, why: verdict.why },
        assumptions,
      }),
    ),
    confounds,
    smallestResolvablePct: resolution.smallestResolvablePct,
    smallestNoDifferencePct: resolution.smallestNoDifferencePct,
    ...more,
    weights: {
      noisePct: 100 * fits.levelled.noise,
      story: fits.levelled.story,
      badPull: Object.fromEntries(day.pulls.map(({ pull }, i) => [pull.id, fits.levelled.bad[i]!])),
    },
    notes,
  };
}

function pct({ value, low, high }: Estimate): EstimatePct {
  return { pct: percentOf(value), low: percentOf(low), high: percentOf(high) };
}

function plainDifference(
  pulls: AnalysedPull[],
  reference: Setup,
  candidate: Setup,
  { band }: UsedBand,
  valueOf: ValueOf,
  assumptions: Assumptions,
): EstimatePct | null {
  const day = daySeries(pulls, reference.id, band, valueOf);
  const index = day?.setups.indexOf(candidate.id) ?? -1;
  return day && index > 0 ? pct(fitAsRun(day.series, assumptions).estimates[index - 1]!) : null;
}

function boostedDifference(
  bundle: Bundle,
  pulls: AnalysedPull[],
  reference: Setup,
  candidate: Setup,
  band: UsedBand,
  assumptions: Assumptions,
): EstimatePct | null {
  if (bundle.vehicle.aspiration === 'na') return null;
  const valueOf: ValueOf = (entry, range) => {
    const value = metricValue(bundle.programme.metric, entry, range);
    const factor = pullBoostedFactor(bundle, entry, range);
    return value === null || factor === null ? null : Math.log(value * factor);
  };
  return plainDifference(pulls, reference, candidate, band, valueOf, assumptions);
}

function unknownKeys(reference: Setup, candidate: Setup): string[] {
  const { unknown } = stateConfounds(reference, candidate);
  return unknown.length === 0 ? [] : [`Stated for one setup only, so unknown: ${listed(unknown)}.`];
}

function bandNotes(bundle: Bundle, band: UsedBand): string[] {
  if (band.share >= 1) return [];
  const [low, high] = band.band;
  const why = band.cappedSetup
    ? `the engine closes the throttle with ${band.cappedSetup}`
    : `the pulls of ${listed(band.shortSetups)} stop short`;
  const [askedLow, askedHigh] = bundle.programme.bandRpm;
  return [`Compared from ${Math.round(low)} to ${Math.round(high)} rpm instead of ${askedLow} to ${askedHigh}: ${why}.`];
}

interface VerdictInput {
  reference: Setup;
  candidate: Setup;
  leading: EstimatePct;
  smallestPct: number;
  confounds: Confound[];
  band: UsedBand;
  bandWithheld: string | null;
  leadsOwn: boolean;
}

function powerVerdict(input: VerdictInput): { power: PowerVerdict; why: string } {
  const { leading, smallestPct, confounds, band, candidate, reference } = input;
  const shown = withInterval(leading.pct, leading.low, leading.high, '%');
  const withheld = confounds.filter(({ withholds }) => withholds.includes('power')).map(({ detail }) => detail);
  if (input.bandWithheld) withheld.unshift(input.bandWithheld);
  if (withheld.length > 0) {
    return { power: 'withheld', why: `No verdict on the part: ${withheld.join('; ')}. Measured all the same: ${shown}.` };
  }
  const estimate = { value: leading.pct, low: leading.low, high: leading.high };
  const power = gainVerdict(estimate, smallestPct);
  const atLeast = band.cappedSetup ? 'at least ' : '';
  const start = input.leadsOwn ? 'with the start that the part itself brings about' : 'from the same start';
  const together = confounds.some(({ code }) => code === 'several-parts-changed') ? ' The parts are judged together.' : '';
  const bound = candidate.bound ? ` It is a bound: at most this much is to gain upstream of here.` : '';
  const matters = insideSmallest(estimate, smallestPct)
    ? ', real but smaller than the ' + smallestPct + ' % that matters'
    : leading.low > smallestPct || leading.high < -smallestPct
      ? `, more than the ${smallestPct} % that matters`
      : '';
  const sentences: Record<Exclude<PowerVerdict, 'withheld'>, string> = {
    gain: `${candidate.name} gains ${atLeast}${shown} on ${reference.name} ${start}${matters}.`,
    loss: `${candidate.name} loses against ${reference.name}: ${shown} ${start}${matters}.`,
    'no-difference': `No difference that matters between ${candidate.name} and ${reference.name}: ${shown}, inside ±${smallestPct} %.`,
    'not-resolved': `What ${candidate.name} does cannot be distinguished from noise: ${shown}.`,
  };
  return { power, why: sentences[power] + together + bound };
}

function furtherPulls(
  bundle: Bundle,
  day: DaySeries,
  candidate: number,
  noise: number,
  power: PowerVerdict,
  assumptions: Assumptions,
  pulls: AnalysedPull[],
): { morePulls: number | null; morePullsReason: string | null } {
  if (power !== 'not-resolved') return { morePulls: 0, morePullsReason: null };
  const noLoss = questionsOf(bundle).every(({ kind }) => kind === 'power-no-loss');
  const gaps = pulls.flatMap(({ place }) => (place.restH === null ? [] : [{ hours: place.restH, swap: place.swapBefore }]));
  const typical = (swap: boolean, fallback: number) => {
    const own = gaps.filter((gap) => gap.swap === swap).map(({ hours }) => hours);
    return own.length > 0 ? median(own) : fallback;
  };
  const spacingH = typical(false, 5 / 60);
  const conditioning = pulls.filter(({ pull }) => pull.kind === 'conditioning').length;
  const blocks = 1 + pulls.filter(({ place }) => place.swapBefore).length;
  const conditioningAfterSwap = Math.round(conditioning / blocks);
  const added = morePulls(
    {
      setup: day.series.setup,
      timeH: day.series.timeH,
      pullsBefore: day.series.pullsBefore,
      candidate,
      noise,
      spacingH,
      swapH: typical(true, 32 / 60) + conditioningAfterSwap * spacingH,
      conditioningAfterSwap,
    },
    assumptions,
    bundle.programme.smallestGainPct,
    noLoss ? 'smallestNoDifferencePct' : 'smallestResolvablePct',
  );
  const reason =
    added === null
      ? `not with this cell: even ${MOST_FURTHER_PULLS} further pulls would not resolve ${signed(bundle.programme.smallestGainPct)} %`
      : null;
  return { morePulls: added, morePullsReason: reason };
}

function emptyComparison(
  bundle: Bundle,
  pulls: AnalysedPull[],
  reference: Setup,
  candidate: Setup,
  band: UsedBand,
  assumptions: Assumptions,
): Comparison {
  const missing = [reference, candidate]
    .filter((setup) => !pulls.some(({ used, pull }) => used && pull.setup === setup.id))
    .map(({ name }) => name);
  const why = `Not resolved: there is no used pull of ${listed(missing)}.`;
  const { confounds } = stateConfounds(reference, candidate);
  return {
    reference: reference.id,
    candidate: candidate.id,
    bandUsedRpm: [band.band[0], band.band[1]],
    asRun: null,
    levelled: null,
    ownStart: null,
    ownStartReason: why,
    sameAir: null,
    uncorrected: null,
    boostedEstimate: null,
    contributions: [],
    verdict: { power: 'not-resolved', why },
    answers: questionsOf(bundle).map((question) =>
      answerOf(question, {
        pulls,
        reference: reference.id,
        candidate: candidate.id,
        band: band.band,
        leading: null,
        levelled: null,
        confounds,
        bandWithheld: null,
        smallestGainPct: bundle.programme.smallestGainPct,
        powerAnswer: { answer: 'not-resolved', why },
        assumptions,
      }),
    ),
    confounds,
    smallestResolvablePct: null,
    smallestNoDifferencePct: null,
    morePulls: null,
    morePullsReason: why.replace(/\.$/, ''),
    weights: null,
    notes: unknownKeys(reference, candidate),
  };
}
