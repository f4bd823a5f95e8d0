import type { Answer, Question, QuestionEvidence, QuestionKind, QuestionUnit } from '@gezeit/contract';
import type { AnalysedPull } from '../compare/analysed-pull.js';
import { usedBand } from '../compare/used-band.js';
import type { Band } from '../pull/band.js';
import { said, type Interval } from '../said.js';
import { pairPulls, unmatchedFiles } from './plain-fit.js';
import { unresolved, type AnswerBody, type QuestionContext, type QuestionKindRules } from './question-kind.js';
import { pooledDifference } from '../numeric/means.js';

interface LoggedLimit {
  kind: QuestionKind;
  of: Answer['of'];
  limit: { smallest: number; unit: QuestionUnit };
  /** Channels without which it is not logged. */
  channels: readonly string[];
  /** Whether only a rise counts. */
  upwardsOnly?: boolean;
  value(entry: AnalysedPull, band: Band): number | null;
}

/** A quantity that must stay within a limit: a plain difference with a Student interval; `gain` reads "within the limit". */
export function loggedLimit({ kind, of, limit, channels, upwardsOnly = false, value }: LoggedLimit): QuestionKindRules {
  return {
    kind,
    limit,
    answer(question, context) {
      const { judge, reference, candidate } = context;
      const smallest = question.smallest ?? limit.smallest;
      const unit = question.unit ?? limit.unit;
      const { band } = usedBand(question.bandRpm ?? judge.bundle.programme.bandRpm, judge.pulls, [reference.id, candidate.id]);
      const own = (setup: string) => pairPulls(context).flatMap((entry) => (entry.pull.setup === setup ? (value(entry, band) ?? []) : []));
      const difference = pooledDifference(own(reference.id), own(candidate.id));
      if (!difference) {
        const typed = evidenceAnswer(question, context, of, limit);
        if (typed) return typed;
        const files = unmatchedFiles(context, (channel) => channels.includes(channel));
        const what = channels[0]!;
        return unresolved(of, unit, smallest, files.length > 0 ? said('clock-unmatched', { what, files }) : said('not-logged', { what }));
      }
      const { value: estimate, low, high } = difference;
      if (low === null || high === null) return { ...unresolved(of, unit, smallest, said('one-pull-each', { kind })), estimate, low, high };
      const answer = withinLimit({ value: estimate, low, high }, smallest, upwardsOnly);
      const interval = { value: estimate, low, high };
      return {
        answer,
        of,
        estimate,
        low,
        high,
        unit,
        smallest,
        said: [said('limit', { kind, answer, estimate: interval, limit: smallest, unit })],
      };
    },
  };
}

function withinLimit({ low, high }: Interval, limit: number, upwardsOnly: boolean): Answer['answer'] {
  if (high < limit && (upwardsOnly || low > -limit)) return 'gain';
  return low > limit || (!upwardsOnly && high < -limit) ? 'loss' : 'not-resolved';
}

/** What somebody found out about a question for a candidate; a single finding counts for every one. */
export function evidenceFor({ evidence }: Question, candidate: string): QuestionEvidence | null {
  if (!evidence) return null;
  return typeof evidence.value === 'number'
    ? (evidence as QuestionEvidence)
    : ((evidence as Record<string, QuestionEvidence>)[candidate] ?? null);
}

/** An answer from what was found out by hand: under the limit, or not. Null where nothing was entered. */
function evidenceAnswer(
  question: Question,
  { candidate }: QuestionContext,
  of: Answer['of'],
  limit: { smallest: number; unit: QuestionUnit | 'codes' },
): AnswerBody | null {
  const found = evidenceFor(question, candidate.id);
  if (!found) return null;
  const smallest = question.smallest ?? limit.smallest;
  const unit = found.unit ?? limit.unit;
  const answer = found.value < smallest ? 'gain' : 'loss';
  const { value, note, by } = found;
  const figures = said('evidence', { kind: question.kind, answer, value, unit, limit: smallest, note, by: by ?? '' });
  return { answer, of, estimate: value, low: null, high: null, unit, smallest, said: [figures] };
}

/** A question that no log answers: only what was found out by hand does. */
export function evidenceOnly(kind: QuestionKind, limit: { smallest: number; unit: QuestionUnit }, shownUnit: string): QuestionKindRules {
  return {
    kind,
    limit,
    answer: (question, context) =>
      evidenceAnswer(question, context, 'evidence', { ...limit, unit: shownUnit as QuestionUnit }) ??
      unresolved('evidence', shownUnit, question.smallest ?? limit.smallest, said('no-evidence', { kind })),
  };
}
