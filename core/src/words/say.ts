import type { SaidValues } from '../said.js';
import { CLAIM_WORDS } from './claim-words.js';
import type { Formatter } from '../format/formatter.js';
import { PULL_WORDS } from './pull-words.js';
import { REASON_CLAUSES } from './reason-words.js';
import { ANSWERS } from './say-answers.js';
import { sayWith, writtenBy } from './with-words.js';
import type { Writers } from './writers.js';

/** The words of everything that findings can say. */
const WORDS: Writers<SaidValues> = { ...PULL_WORDS, ...ANSWERS, ...CLAIM_WORDS };

/** Something said, in words. */
export const say = sayWith(WORDS, REASON_CLAUSES);

/** A copy of findings (or a part of them) with every text written anew from what is said. */
export const withWords = <T>(node: T, f: Formatter): T => writtenBy(say, node, f);
