import type { Question, QuestionKind } from '@gezeit/contract';
import { coolantNoHotter } from './coolant-no-hotter.js';
import { coolerCharge } from './cooler-charge.js';
import { lessRestriction } from './less-restriction.js';
import { meterUnchanged } from './meter-unchanged.js';
import { mixtureWithin } from './mixture-within.js';
import { noFaultCodes } from './no-fault-codes.js';
import { notLouder } from './not-louder.js';
import { packageGain } from './package-gain.js';
import { powerGain } from './power-gain.js';
import { powerNoLoss } from './power-no-loss.js';
import { fadesLess } from './fades-less.js';
import { quickerResponse } from './quicker-response.js';
import type { AnswerBody, QuestionContext, QuestionKindRules } from './question-kind.js';

/** Every kind of question: a forgotten one does not compile. */
export const QUESTION_KINDS: Readonly<Record<QuestionKind, QuestionKindRules>> = {
  'power-gain': powerGain,
  'power-no-loss': powerNoLoss,
  'package-gain': packageGain,
  'cooler-charge': coolerCharge,
  'less-restriction': lessRestriction,
  'no-fault-codes': noFaultCodes,
  'meter-unchanged': meterUnchanged,
  'mixture-within': mixtureWithin,
  'coolant-no-hotter': coolantNoHotter,
  'not-louder': notLouder,
  'quicker-response': quickerResponse,
  'fades-less': fadesLess,
};

/** The answer to one question for one pair; each is answered on its own terms. */
export function answerOf(question: Question, context: QuestionContext): AnswerBody {
  return QUESTION_KINDS[question.kind].answer(question, context);
}
