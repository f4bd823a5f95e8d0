import { comparableLength, FADE_RULES, fadeSeries } from '../compare/fade.js';
import { withholding } from '../compare/cloud.js';
import { chargeKeyOf, logMetric } from '../compare/day-series.js';
import { stateClouds } from '../compare/state-clouds.js';
import { usedBand } from '../compare/used-band.js';
import type { PlainAssumptions } from '../judge/assumptions.js';
import { gainVerdict } from '../judge/verdict.js';
import { bandMean } from '../pull/band.js';
import { mean } from '../numeric/means.js';
import { said } from '../said.js';
import { plainFit } from './plain-fit.js';
import { unresolved, type QuestionContext, type QuestionKindRules } from './question-kind.js';

const OF = 'fade';

/**
 * Does it fade less? From the first to the n-th pull of series with short rests: power, or charge temperature, setup against setup from an equal
 * start. What levelling takes out on purpose is the answer here.
 */
export const fadesLess: QuestionKindRules = {
  kind: 'fades-less',
  limit: { smallest: 1, unit: 'pct' },
  answer(question, context) {
    const { judge, reference, candidate } = context;
    const unit = question.unit === 'K' ? 'K' : 'pct';
    const smallest = question.smallest ?? (unit === 'K' ? 3 : this.limit.smallest);
    const { band } = usedBand(question.bandRpm ?? judge.bundle.programme.bandRpm, judge.pulls, [reference.id, candidate.id]);
    const series = fadeSeries(judge.pulls.filter(({ used, pull }) => used || pull.kind !== 'measured'));
    const length = comparableLength(series, [reference.id, candidate.id]);
    if (length === null)
      return unresolved(OF, unit, smallest, said('no-series', { least: FADE_RULES.leastPulls, restMin: FADE_RULES.restMin }));
    const nth = question.nth && question.nth >= FADE_RULES.leastPulls ? Math.min(question.nth, length) : length;
    const valueOf = unit === 'K' ? chargeOf(context, band) : logMetric(judge.bundle, judge.bundle.programme.metric);
    const change = (first: (typeof judge.pulls)[number]) => {
      const last = series.get(first)?.[nth - 1];
      const [from, to] = [valueOf(first, band), last ? valueOf(last, band) : null];
      return from === null || to === null ? null : to - from;
    };
    const fit = plainFit(context, band, change, beliefsOf(context, unit));
    if (!fit) return unresolved(OF, unit, smallest, said('no-series', { least: FADE_RULES.leastPulls, restMin: FADE_RULES.restMin }));
    const shown = (value: number) => (unit === 'K' ? value : 100 * Math.expm1(value));
    const estimate = { value: shown(fit.value), low: shown(fit.low), high: shown(fit.high) };
    // Less heating is better, and less loss of power is a larger number.
    const towards = unit === 'K' ? { value: -estimate.value, low: -estimate.high, high: -estimate.low } : estimate;
    const because = withholding(stateClouds(reference, candidate).clouds, unit === 'K' ? 'temperature' : 'power');
    const answer = because.length > 0 ? 'withheld' : gainVerdict(towards, smallest);
    const changesOf = (setup: string) => [...series.keys()].flatMap((first) => (first.pull.setup === setup ? (change(first) ?? []) : []));
    const [ofReference, ofCandidate] = [changesOf(reference.id), changesOf(candidate.id)];
    const figures = said('fades', {
      answer,
      estimate,
      unit,
      nth,
      smallest,
      reference: reference.id,
      candidate: candidate.id,
      referenceChange: shown(mean(ofReference)),
      candidateChange: shown(mean(ofCandidate)),
      series: { reference: ofReference.length, candidate: ofCandidate.length },
    });
    return {
      answer,
      of: OF,
      estimate: estimate.value,
      low: estimate.low,
      high: estimate.high,
      unit,
      smallest,
      said: because.length > 0 ? [said('withheld', { because }), figures] : [figures],
    };
  },
};

function chargeOf({ judge }: QuestionContext, band: readonly [number, number]) {
  const key = chargeKeyOf(
    judge.pulls.filter(({ used, curve }) => used && curve),
    band as [number, number],
  );
  return (entry: (typeof judge.pulls)[number], range: readonly [number, number]) =>
    key && entry.curve ? bandMean(entry.curve, key, range as [number, number]) : null;
}

/** A change within a series is the difference of two pulls: both scatter; what drifts within minutes is small beside it. */
function beliefsOf({ judge }: QuestionContext, unit: 'K' | 'pct'): PlainAssumptions {
  const { temperature, noise, setupEffectSd } = judge.assumptions;
  const base = unit === 'K' ? temperature : { ...temperature, noise, setupEffectSd, driftPerHour: 0, walkPerRootHour: 0, dayToDay: 0 };
  return {
    ...base,
    noise: { ...base.noise, mid: Math.SQRT2 * base.noise.mid },
    startTemperature: FADE_RULES.start[unit],
    driftPerHour: FADE_RULES.driftShare * base.driftPerHour,
    walkPerRootHour: FADE_RULES.driftShare * base.walkPerRootHour,
  };
}
