import type { Answer, Question, QuestionKind, QuestionUnit, Setup } from '@gezeit/contract';
import type { PairJudge } from '../compare/judged-pair.js';
import type { AnySaid } from '../said.js';

/** What a question is asked of: a candidate against its reference, with everything that was judged of the day. */
export interface QuestionContext {
  judge: PairJudge;
  reference: Setup;
  candidate: Setup;
}

/** An answer before its words are written. */
export interface AnswerBody {
  answer: Answer['answer'];
  /** The estimate that is quoted. */
  of: Answer['of'];
  estimate: number | null;
  low: number | null;
  high: number | null;
  unit: string;
  smallest: number;
  said: AnySaid[];
}

/** A kind of question: what would matter, and how it is answered. Its words stand in `words/questions/`. */
export interface QuestionKindRules {
  kind: QuestionKind;
  /** The limit proposed for it, and used where a question names none. */
  limit: { smallest: number; unit: QuestionUnit };
  answer(question: Question, context: QuestionContext): AnswerBody;
}

/** No figure, and why. */
export function unresolved(of: Answer['of'], unit: string, smallest: number, why: AnySaid): AnswerBody {
  return { answer: 'not-resolved', of, estimate: null, low: null, high: null, unit, smallest, said: [why] };
}
