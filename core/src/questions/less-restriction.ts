import { withholding } from '../compare/cloud.js';
import { airMeterShift, conditionClouds } from '../compare/clouds.js';
import { dropOfPullPa, referenceFlowKgS, sectionSensors, sectionsOf, sensorHalfWidth } from '../compare/restriction.js';
import { stateClouds } from '../compare/state-clouds.js';
import { usedBand } from '../compare/used-band.js';
import { gainVerdict } from '../judge/verdict.js';
import { said, type Interval } from '../said.js';
import { pairPulls, plainFit, unmatchedFiles, widened } from './plain-fit.js';
import { unresolved, type QuestionContext, type QuestionKindRules } from './question-kind.js';
import { mean } from '../numeric/means.js';

const OF = 'pressureDrop';
/** A drop goes with the square of the flow at most: a meter that disagrees with the fuel leaves it that much less sure. */
const DROP_PER_FLOW = 2;

/** Is there less restriction? The change of a section's drop at the reference's own flow in the band; negative is less. */
export const lessRestriction: QuestionKindRules = {
  kind: 'less-restriction',
  limit: { smallest: 5, unit: 'pct' },
  answer(question, context) {
    const { judge, reference, candidate } = context;
    const unit = question.unit === 'kPa' ? 'kPa' : 'pct';
    const smallest = question.smallest ?? (unit === 'kPa' ? 0.2 : this.limit.smallest);
    const sections = sectionsOf(judge.pulls, [reference.id, candidate.id]);
    const section =
      question.section == null
        ? (sections.find((name) => name === 'tract') ?? sections[0])
        : sections.find((name) => name === question.section);
    const none = () => {
      const files = unmatchedFiles(context, (channel) => channel.startsWith('pressureDrop') || channel === 'airMassFlow');
      const what = question.section ? `pressureDrop/${question.section}` : 'pressureDrop';
      return unresolved(OF, unit, smallest, files.length > 0 ? said('clock-unmatched', { what, files }) : said('not-logged', { what }));
    };
    if (section === undefined) return none();
    const { band } = usedBand(question.bandRpm ?? judge.bundle.programme.bandRpm, judge.pulls, [reference.id, candidate.id]);
    const flowKgS = referenceFlowKgS(judge.bundle, judge.assumptions, judge.pulls, reference.id, band);
    if (flowKgS === null) return none();
    const dropOf = (entry: (typeof judge.pulls)[number]) => dropOfPullPa(judge.bundle, judge.assumptions, entry, section, flowKgS);
    const fit = plainFit(
      context,
      band,
      (entry) => {
        const drop = dropOf(entry);
        return drop !== null && drop > 0 ? Math.log(drop) : null;
      },
      judge.assumptions.restriction,
    );
    if (!fit) return none();
    const dropsOf = (setup: string) => pairPulls(context).flatMap((entry) => (entry.pull.setup === setup ? (dropOf(entry) ?? []) : []));
    const referenceDropPa = mean(dropsOf(reference.id));
    const sensors = sensorsBetween(context, section, flowKgS, referenceDropPa, mean(dropsOf(candidate.id)));
    const change = widened(
      fit,
      Math.hypot(sensors, DROP_PER_FLOW * (airMeterShift(pairPulls(context), reference.id, candidate.id, band) ?? 0)),
    );
    const scaled = (factor: number): Interval => ({
      value: factor * Math.expm1(change.value),
      low: factor * Math.expm1(change.low),
      high: factor * Math.expm1(change.high),
    });
    const [estimatePct, changePa] = [scaled(100), scaled(referenceDropPa)];
    const estimate = unit === 'pct' ? estimatePct : scaled(referenceDropPa / 1000);
    const decided = gainVerdict({ value: -estimate.value, low: -estimate.high, high: -estimate.low }, smallest);
    const clouds = [...stateClouds(reference, candidate).clouds, ...conditionClouds(judge.bundle)];
    const because = withholding(clouds, 'restriction', { isLoss: decided === 'loss' });
    const answer = because.length > 0 ? 'withheld' : decided;
    const figures = said('less-restriction', {
      answer,
      estimatePct,
      section,
      referenceDropPa,
      changePa,
      atFlowKgS: flowKgS,
      smallest,
      unit,
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

function sensorsBetween(
  { judge, reference, candidate }: QuestionContext,
  section: string,
  flowKgS: number,
  dropA: number,
  dropB: number,
): number {
  const of = (setup: string, dropPa: number) => {
    const sensors = sectionSensors(judge.bundle, judge.assumptions, judge.pulls, setup, section, { dropPa, flowKgS });
    return sensors && { ...sensors, dropPa };
  };
  const [a, b] = [of(reference.id, dropA), of(candidate.id, dropB)];
  return a && b ? sensorHalfWidth(a, b, flowKgS) : 0;
}
