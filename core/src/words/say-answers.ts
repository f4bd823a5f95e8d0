import type { AnswerSaid, CloudSaid, ReasonSaid } from '../said.js';
import { ANSWER_WORDS } from './answer-words.js';
import { CLOUD_WORDS } from './cloud-words.js';
import type { Formatter } from '../format/formatter.js';
import { REASON_CLAUSES, REASON_WORDS } from './reason-words.js';
import { sayWith, writtenBy } from './with-words.js';
import type { Writers } from './writers.js';

/** The words of answers, of what clouds them and why they cannot be had: all that the board says, which loads no other. */
export const ANSWERS: Writers<AnswerSaid & CloudSaid & ReasonSaid> = { ...CLOUD_WORDS, ...REASON_WORDS, ...ANSWER_WORDS };

/** Something said of an answer, in words. */
export const sayOfAnswer = sayWith(ANSWERS, REASON_CLAUSES);

/** The same as a part of a sentence. */
export const clauseOfAnswer = sayWith({ ...ANSWERS, ...REASON_CLAUSES }, REASON_CLAUSES);

/** A copy of answers with every text written anew; see `withWords`. */
export const withAnswerWords = <T>(node: T, f: Formatter): T => writtenBy(sayOfAnswer, node, f);
