import type { Bundle, Comparison, EstimatePct, Setup } from '@gezeit/contract';
import { calibrationsOf, type Calibration } from '../channels/calibration.js';
import { metricValue, pullBoostedFactor, type AnalysedPull } from '../compare/analysed-pull.js';
import { intakeAirRiseK } from '../compare/charge-cooling.js';
import { confoundOf } from '../compare/cloud.js';
import { daySeries, logMetric, type ValueOf } from '../compare/day-series.js';
import { pctOf, quoted, type JudgedPair, type PairJudge } from '../compare/judged-pair.js';
import { stateClouds } from '../compare/state-clouds.js';
import { isAskedOf, isPowerQuestion, powerTerms, questionsOf, verdictQuestion } from '../compare/terms.js';
import { fitAsRun } from '../judge/estimates.js';
import type { Estimate } from '../judge/fit.js';
import { morePulls, MOST_FURTHER_PULLS } from '../judge/more-pulls.js';
import { achievedResolution } from '../judge/resolution.js';
import type { Band } from '../pull/band.js';
import { answerOf, QUESTION_KINDS } from '../questions/index.js';
import { plainFit } from '../questions/plain-fit.js';
import type { QuestionContext } from '../questions/question-kind.js';
import { said, type AnySaid, type Interval } from '../said.js';
import { changedAssumptions } from './assumption-list.js';
import { contributionsOf } from './contributions.js';
import { engineEstimateOf } from './engine-estimate.js';
import { levellingOf } from './levelling.js';
import { witnessesOf } from './witnesses.js';
import { median } from '../numeric/means.js';

/** Compares a candidate with a reference: the estimates of the verdict's question, and the answer to every question. */
export function comparisonOf(judge: PairJudge, reference: Setup, candidate: Setup): Comparison {
  const { bundle } = judge;
  const asked = questionsOf(bundle).filter((question) => isAskedOf(question, candidate.id));
  const context = { judge, reference, candidate };
  const ofVerdict = verdictQuestion(bundle, candidate.id);
  const pair = judge.judge(reference, candidate, powerTerms(bundle, ofVerdict));
  const verdict = QUESTION_KINDS['power-gain'].answer(
    ofVerdict ?? { id: '', kind: 'power-gain', smallest: bundle.programme.smallestGainPct, unit: 'pct', start: 'same' },
    context,
  );
  const { of, estimate } = quoted(pair);
  const resolution = estimate ? achievedResolution(logOf(estimate.low), logOf(estimate.high)) : null;
  const further = furtherPulls(judge, pair, verdict.answer);
  const uncorrected = plainDifference(judge, pair, logMetric(bundle, pair.terms.metric, 'NONE'));
  return {
    reference: reference.id,
    candidate: candidate.id,
    bandUsedRpm: [pair.band.band[0], pair.band.band[1]],
    asRun: pair.asRun,
    levelled: pair.levelled,
    ownStart: pair.ownStart,
    ownStartReason: reasonText(pair.reasons.ownStart),
    sameAir: pair.sameAir,
    sameAirReason: reasonText(pair.reasons.sameAir),
    sameAirContains: pair.sameAir ? pair.stillIn : [],
    wholeBand: pair.wholeBand,
    wholeBandReason: reasonText(pair.reasons.wholeBand),
    leading: of,
    uncorrected: uncorrected && pctOf(uncorrected),
    boostedEstimate: boostedDifference(judge, pair),
    contributions: contributionsOf(judge, pair, uncorrected),
    levelling: levellingOf(judge, pair),
    witnesses: witnessesOf(judge, pair),
    riseAtEqualStartK: riseAtEqualStart(context, pair.band.band),
    engineEstimate: verdict.answer === 'withheld' ? null : engineEstimateOf(judge, pair),
    leansOn: null,
    verdict: { power: verdict.answer, why: '', said: { why: verdict.said } },
    answers: asked.map((question) => {
      const { said: why, ...body } = answerOf(question, context);
      return { question: question.id, kind: question.kind, ...body, why: '', said: { why } };
    }),
    confounds: pair.clouds.map(confoundOf),
    smallestResolvablePct: resolution?.smallestResolvablePct ?? null,
    smallestNoDifferencePct: resolution?.smallestNoDifferencePct ?? null,
    morePulls: further.pulls,
    morePullsReason: reasonText(further.reason),
    weights: pair.fitted && {
      noisePct: 100 * pair.fitted.fits.levelled.noise,
      story: pair.fitted.fits.levelled.story,
      badPull: Object.fromEntries(pair.fitted.day.pulls.map(({ pull }, i) => [pull.id, pair.fitted!.fits.levelled.bad[i]!])),
    },
    notes: [],
    said: {
      ownStartReason: list(pair.reasons.ownStart),
      sameAirReason: list(pair.reasons.sameAir),
      wholeBandReason: list(pair.reasons.wholeBand),
      morePullsReason: list(further.reason),
      notes: notesOf(
        judge,
        pair,
        asked.filter(isPowerQuestion).map((question) => powerTerms(bundle, question)),
      ),
    },
  };
}

/** In a hotter start less is left to rise: the belief about a charge temperature less the start itself. */
function riseAtEqualStart(context: QuestionContext, band: Band): Interval | null {
  const beliefs = context.judge.assumptions.temperature;
  const start = beliefs.startTemperature && { ...beliefs.startTemperature, mean: beliefs.startTemperature.mean - 1 };
  return plainFit(context, band, intakeAirRiseK, { ...beliefs, startTemperature: start });
}

const list = (reason: AnySaid | null): AnySaid[] => (reason ? [reason] : []);
/** A text that is written from what is said of it; null where nothing is. */
const reasonText = (reason: AnySaid | null): string | null => (reason ? '' : null);
const logOf = (pct: number) => Math.log1p(pct / 100);

function notesOf({ bundle, pulls }: PairJudge, pair: JudgedPair, asked: readonly JudgedPair['terms'][]): AnySaid[] {
  const { reference, candidate, band, fitted } = pair;
  const { unknown } = stateClouds(reference, candidate);
  const own = (entry: AnalysedPull) => entry.pull.setup === reference.id || entry.pull.setup === candidate.id;
  const anyway = pulls.filter((entry) => entry.used && own(entry) && entry.pull.anyway).map(({ pull }) => pull.id);
  const amended = pulls.filter((entry) => own(entry) && entry.pull.amended?.length).map(({ pull }) => pull.id);
  const withoutMetric = [...new Set(asked.length === 0 ? [] : [pair.terms.metric, ...asked.map(({ metric }) => metric)])].flatMap(
    (metric): AnySaid[] => {
      const terms = asked.find((entry) => entry.metric === metric) ?? pair.terms;
      const without = pulls.filter((entry) => entry.used && own(entry) && metricValue(metric, entry, terms.bandRpm, true) === null);
      return without.length === 0 ? [] : [said('pulls-without-metric', { pulls: without.map(({ pull }) => pull.id), metric })];
    },
  );
  const changed = changedAssumptions(bundle);
  const open = (bundle.days ?? []).flatMap(({ openAtEnd }) => (openAtEnd?.items.length ? [openAtEnd] : []));
  return [
    ...(changed.length > 0 ? [said('assumptions-changed', { changed })] : []),
    ...(fitted?.day.leftOut ?? []),
    ...(unknown.length > 0 ? [said('stated-once', { keys: unknown })] : []),
    ...(band.share < 1
      ? [said('band-cut', { bandRpm: band.band, askedRpm: band.asked, cappedSetup: band.cappedSetup, shortSetups: band.shortSetups })]
      : []),
    ...withoutMetric,
    ...(anyway.length > 0 ? [said('driven-anyway', { pulls: anyway })] : []),
    ...putRight(
      bundle,
      pulls.filter((entry) => own(entry) && entry.used),
    ),
    ...(amended.length > 0 ? [said('pulls-amended', { pulls: amended })] : []),
    ...(bundle.programme.changedAfterwards ?? []).map(({ what, question }) =>
      said('changed-after-results', { what, question: question ?? null }),
    ),
    ...open.map(({ items, reason }) => said('open-at-the-end', { items, reason })),
  ];
}

/** Calibrations that were put right after the log was written, each once, with the used pulls that were read by it. */
function putRight(bundle: Bundle, used: readonly AnalysedPull[]): AnySaid[] {
  const found = new Map<string, { calibration: Calibration; pulls: string[] }>();
  for (const { pull } of used)
    for (const calibration of calibrationsOf(bundle, pull)) {
      const key = JSON.stringify(calibration);
      const entry = found.get(key) ?? { calibration, pulls: [] };
      found.set(key, { calibration, pulls: [...entry.pulls, pull.id] });
    }
  return [...found.values()].map((entry) => said('calibration-put-right', entry));
}

function plainDifference({ pulls, assumptions }: PairJudge, { reference, candidate, band }: JudgedPair, valueOf: ValueOf): Estimate | null {
  const day = daySeries(pulls, reference.id, band.band, valueOf);
  const index = day?.setups.indexOf(candidate.id) ?? -1;
  return day && index > 0 ? fitAsRun(day.series, assumptions).estimates[index - 1]! : null;
}

function boostedDifference(judge: PairJudge, pair: JudgedPair): EstimatePct | null {
  const { bundle } = judge;
  if (bundle.vehicle.aspiration === 'na') return null;
  const boosted = plainDifference(judge, pair, (entry, range) => {
    const value = metricValue(pair.terms.metric, entry, range);
    const factor = pullBoostedFactor(bundle, entry, range);
    return value === null || factor === null ? null : Math.log(value * factor);
  });
  return boosted && pctOf(boosted);
}

function furtherPulls(
  { bundle, pulls, assumptions }: PairJudge,
  pair: JudgedPair,
  answer: Comparison['verdict']['power'],
): { pulls: number | null; reason: AnySaid | null } {
  const { fitted, terms, missing } = pair;
  if (!fitted) return { pulls: null, reason: said('no-used-pull', { setups: missing }) };
  const unanswered = quoted(pair);
  if (!unanswered.estimate) return { pulls: null, reason: unanswered.reason };
  if (answer !== 'not-resolved') return { pulls: 0, reason: null };
  const asked = questionsOf(bundle);
  const noLoss = asked.length > 0 && asked.every(({ kind }) => kind === 'power-no-loss');
  const { series } = fitted.day;
  const spacingH = typicalGapH(pulls, false, 5 / 60);
  const conditioning = pulls.filter(({ pull }) => pull.kind === 'conditioning').length;
  const blocks = 1 + pulls.filter(({ place }) => place.swapBefore).length;
  const conditioningAfterSwap = Math.round(conditioning / blocks);
  const added = morePulls(
    {
      setup: series.setup,
      timeH: series.timeH,
      pullsBefore: series.pullsBefore,
      candidate: fitted.index,
      noise: fitted.fits.levelled.noise,
      spacingH,
      swapH: typicalGapH(pulls, true, 32 / 60) + conditioningAfterSwap * spacingH,
      conditioningAfterSwap,
    },
    assumptions,
    terms.smallestPct,
    noLoss ? 'smallestNoDifferencePct' : 'smallestResolvablePct',
  );
  if (added !== null) return { pulls: added, reason: null };
  return { pulls: null, reason: said('not-with-this-cell', { pulls: MOST_FURTHER_PULLS, smallestPct: terms.smallestPct }) };
}

/** Median time from pull to pull, or across a swap, h; the fallback where none was driven. */
function typicalGapH(pulls: readonly AnalysedPull[], swap: boolean, fallbackH: number): number {
  const own = pulls.flatMap(({ place }) => (place.restH !== null && place.swapBefore === swap ? [place.restH] : []));
  return own.length > 0 ? median(own) : fallbackH;
}
