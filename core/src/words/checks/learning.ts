import { listed, plain, tied } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const learning: CheckWords<'learning'> = {
  word: 'still learning',
  detail: ({ underPct, pulls }, f) =>
    `${tied(plain(underPct, 1), '%')} under the later pulls, and rising (${listed(pulls.map(({ pull, offPct }) => `${pull} ${f.percent(offPct)}`))}): the engine control may still adapt; it is weighed already`,
};
