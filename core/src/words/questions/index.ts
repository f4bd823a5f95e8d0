import type { Answer, QuestionKind } from '@gezeit/contract';
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
import type { QuestionWords } from './question-words.js';

/** The words of every kind of question: a forgotten one does not compile. */
export const QUESTION_WORDS: Readonly<Record<QuestionKind, QuestionWords>> = {
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

/** Questions in a word or two. */
export const QUESTION_LABELS = Object.fromEntries(Object.entries(QUESTION_WORDS).map(([kind, { label }]) => [kind, label])) as Readonly<
  Record<QuestionKind, string>
>;

const PLAIN: Readonly<Record<Answer['answer'], string>> = {
  gain: 'yes',
  loss: 'no, the other way',
  'no-difference': 'no difference that matters',
  'not-resolved': 'cannot be told',
  withheld: 'withheld',
};

/** The answer to a question in a word or two; a bound never reads as a gain. */
export function answerWord(kind: QuestionKind, answer: Answer['answer'], isBound = false): string {
  const words = QUESTION_WORDS[kind];
  if (isBound && answer === 'gain' && words.bound) return words.bound;
  return words.answers[answer] ?? PLAIN[answer];
}
