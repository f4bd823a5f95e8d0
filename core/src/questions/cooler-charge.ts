import { coldSideC, coldSideOf } from '../compare/charge-cooling.js';
import { withholding } from '../compare/cloud.js';
import { cellClouds } from '../compare/clouds.js';
import { chargeKeyOf } from '../compare/day-series.js';
import { sensorOf, together } from '../judge/sensor-accuracy.js';
import { stateClouds } from '../compare/state-clouds.js';
import { usedBand } from '../compare/used-band.js';
import { gainVerdict } from '../judge/verdict.js';
import { bandMean } from '../pull/band.js';
import { said } from '../said.js';
import { pairPulls, plainFit, unmatchedFiles, widened } from './plain-fit.js';
import { unresolved, type QuestionContext, type QuestionKindRules } from './question-kind.js';

const OF = 'chargeTemperature';

/** Is the charge cooler? Mean charge temperature in the band above one cold side, the same for both setups; negative is cooler. */
export const coolerCharge: QuestionKindRules = {
  kind: 'cooler-charge',
  limit: { smallest: 3, unit: 'K' },
  answer(question, context) {
    const { judge, reference, candidate } = context;
    const smallest = question.smallest ?? this.limit.smallest;
    const { band } = usedBand(question.bandRpm ?? judge.bundle.programme.bandRpm, judge.pulls, [reference.id, candidate.id]);
    const pulls = pairPulls(context).filter(
      ({ curve }) => curve && ['intakeAirTemperature', 'coolerOutTemperature'].some((key) => curve.channels.has(key)),
    );
    const [charge, side] = [chargeKeyOf(pulls, band), coldSideOf(pulls, band)];
    const above: Parameters<typeof plainFit>[2] = (entry, range) => {
      if (!charge || !side || !entry.curve) return null;
      const [hot, cold] = [bandMean(entry.curve, charge, range), coldSideC(entry, side, range)];
      return hot === null || cold === null ? null : hot - cold;
    };
    const fit = charge && side ? plainFit(context, band, above, judge.assumptions.temperature) : null;
    if (!fit) {
      const files = unmatchedFiles(context, (channel) => channel === 'intakeAirTemperature' || channel === 'coolerOutTemperature');
      const what = 'chargeTemperature';
      const none = charge && !side ? said('no-cold-side', {}) : said('not-logged', { what });
      return unresolved(OF, 'K', smallest, files.length > 0 ? said('clock-unmatched', { what, files }) : none);
    }
    const estimateK = widened(fit, otherSensors(context, charge!));
    const own = (setup: string) => pulls.filter(({ pull }) => pull.setup === setup);
    const clouds = [...stateClouds(reference, candidate).clouds, ...cellClouds(own(reference.id), own(candidate.id))];
    const because = withholding(clouds, 'temperature');
    const decided = gainVerdict({ value: -estimateK.value, low: -estimateK.high, high: -estimateK.low }, smallest);
    const answer = because.length > 0 ? 'withheld' : decided;
    const figures = said('cooler-charge', { answer, estimateK, coldSide: side!, smallestK: smallest, bandRpm: band });
    return {
      answer,
      of: OF,
      estimate: estimateK.value,
      low: estimateK.low,
      high: estimateK.high,
      unit: 'K',
      smallest,
      said: because.length > 0 ? [said('withheld', { because }), figures] : [figures],
    };
  },
};

/** What different sensors may put between the setups, K; the same sensor's error cancels. */
function otherSensors(context: QuestionContext, charge: string): number {
  const { judge, reference, candidate } = context;
  const of = (setup: string) => {
    const first = pairPulls(context).find(({ pull, curve }) => pull.setup === setup && curve?.channels.has(charge));
    return first ? sensorOf(judge.bundle, judge.assumptions, first.curve!, charge, 0) : null;
  };
  const [a, b] = [of(reference.id), of(candidate.id)];
  return !a || !b || a.id === b.id ? 0 : together(a.accuracy, b.accuracy);
}
