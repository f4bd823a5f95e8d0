import { plain, tied } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const misfire: CheckWords<'misfire'> = {
  word: 'misfire',
  detail: ({ count, deepestPct }) =>
    `${count} short losses of power, the deepest ${tied(plain(deepestPct, 0), '%')}: ignition or fuel breaks down under load. Stop and look before the next pull`,
};
