import type { PullFlag } from '@gezeit/contract';
import type { PullSaid } from '../../said.js';
import type { Formatter } from '../../format/formatter.js';

/** The words of a check of a pull: its flag in a word or two, and what exactly it found. */
export interface CheckWords<F extends PullFlag> {
  word: string;
  detail: (values: PullSaid[`flag:${F}`], f: Formatter) => string;
}
