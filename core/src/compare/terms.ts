import type { Bundle, Metric, Question, QuestionKind } from '@gezeit/contract';
import type { Band } from '../pull/band.js';

/** Under which terms power is judged: what is compared, over which band, from which start, and what would matter. */
export interface PowerTerms {
  metric: Metric;
  bandRpm: Band;
  start: 'same' | 'own';
  smallestPct: number;
}

/** The questions of a programme; without any there is one, the ordinary power question. */
export function questionsOf({ programme }: Bundle): Question[] {
  if (programme.questions?.length) return programme.questions;
  return [{ id: 'q1', kind: 'power-gain', smallest: programme.smallestGainPct, unit: 'pct', start: 'same' }];
}

const POWER_KINDS: readonly QuestionKind[] = ['power-gain', 'power-no-loss', 'package-gain'];

/** Whether a question is about power, a part alone or a package. */
export const isPowerQuestion = ({ kind }: Question): boolean => POWER_KINDS.includes(kind);

/** A question's own terms; what it leaves out is the programme's. Null: the ordinary question, from the same start. */
export function powerTerms({ programme }: Bundle, question: Question | null): PowerTerms {
  return {
    metric: question?.metric ?? programme.metric,
    bandRpm: question?.bandRpm ?? programme.bandRpm,
    start: question?.start === 'own' ? 'own' : 'same',
    smallestPct: question?.smallest ?? programme.smallestGainPct,
  };
}

/** What of power a pull can give to be of use: the programme's metric, and each power question's; none where power is not asked at all. */
export function askedMetrics(bundle: Bundle): { metric: Metric; bandRpm: Band }[] {
  const asked = questionsOf(bundle).filter(isPowerQuestion);
  return asked.length === 0 ? [] : [powerTerms(bundle, null), ...asked.map((question) => powerTerms(bundle, question))];
}

/** Whether a question is asked of a candidate. */
export const isAskedOf = ({ setups }: Question, candidate: string): boolean => !setups?.length || setups.includes(candidate);

/** The question whose terms `verdict.power` answers: the first that asks a candidate for a gain; null where none does. */
export const verdictQuestion = (bundle: Bundle, candidate: string): Question | null =>
  questionsOf(bundle).find((question) => question.kind === 'power-gain' && isAskedOf(question, candidate)) ?? null;

/** The question whose estimate a claim about power is held against: a gain, else a package, else no loss; null: the ordinary one. */
export function claimQuestion(bundle: Bundle): Question | null {
  const asked = questionsOf(bundle);
  for (const kind of ['power-gain', 'package-gain', 'power-no-loss'] as const) {
    const found = asked.find((question) => question.kind === kind);
    if (found) return found;
  }
  return null;
}
