import { withholding } from '../compare/cloud.js';
import { rampOf, responseOf, responseTerms } from '../compare/response.js';
import { stateClouds } from '../compare/state-clouds.js';
import { usedBand } from '../compare/used-band.js';
import type { PlainAssumptions } from '../judge/assumptions.js';
import { gainVerdict } from '../judge/verdict.js';
import { mean } from '../numeric/means.js';
import { said } from '../said.js';
import { pairPulls, plainFit } from './plain-fit.js';
import { unresolved, type QuestionKindRules } from './question-kind.js';

const OF = 'response';

/** Does it respond quicker? The time (or engine speed) at which boost or torque is there, or the time between two speeds; negative is quicker. */
export const quickerResponse: QuestionKindRules = {
  kind: 'quicker-response',
  limit: { smallest: 0.1, unit: 's' },
  answer(question, context) {
    const { judge, reference, candidate } = context;
    const { band } = usedBand(question.bandRpm ?? judge.bundle.programme.bandRpm, judge.pulls, [reference.id, candidate.id]);
    const pulls = pairPulls(context);
    const own = pulls.filter(({ pull }) => pull.setup === reference.id);
    const terms = responseTerms(judge.bundle, question, own, band);
    const unit = terms?.unit ?? (question.unit === 'rpm' ? 'rpm' : 's');
    const smallest = question.smallest ?? (unit === 'rpm' ? 100 : this.limit.smallest);
    const ramp = unit === 'rpm' ? rampOf(pulls, band) : 1;
    const fit =
      terms && ramp !== null ? plainFit(context, band, (entry) => responseOf(entry, terms), times(judge.assumptions.response, ramp)) : null;
    if (!terms || !fit) {
      const what = { boost: 'manifoldPressure', torque: 'torque', engineSpeed: 'engineSpeed', vehicleSpeed: 'vehicleSpeed' }[
        terms?.of ?? 'boost'
      ];
      return unresolved(OF, unit, smallest, said('response-not-reached', { what }));
    }
    const clouds = stateClouds(reference, candidate).clouds;
    const because = withholding(clouds, 'power');
    const decided = gainVerdict({ value: -fit.value, low: -fit.high, high: -fit.low }, smallest);
    const answer = because.length > 0 ? 'withheld' : decided;
    const referenceValue = mean(own.flatMap((entry) => responseOf(entry, terms) ?? []));
    const { of, level, share, between } = terms;
    const figures = said('response', { answer, estimate: fit, unit, of, level, sharePct: 100 * share, between, referenceValue, smallest });
    return {
      answer,
      of: OF,
      estimate: fit.value,
      low: fit.low,
      high: fit.high,
      unit,
      smallest,
      said: because.length > 0 ? [said('withheld', { because }), figures] : [figures],
    };
  },
};

/** Beliefs in seconds, in another unit. */
function times(beliefs: PlainAssumptions, by: number): PlainAssumptions {
  return {
    noise: { ...beliefs.noise, mid: beliefs.noise.mid * by },
    setupEffectSd: beliefs.setupEffectSd * by,
    startTemperature: beliefs.startTemperature && { mean: beliefs.startTemperature.mean * by, sd: beliefs.startTemperature.sd * by },
    driftPerHour: beliefs.driftPerHour * by,
    walkPerRootHour: beliefs.walkPerRootHour * by,
    dayToDay: beliefs.dayToDay * by,
  };
}
