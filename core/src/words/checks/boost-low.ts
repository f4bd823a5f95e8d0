import { tied } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const boostLow: CheckWords<'boost-low'> = {
  word: 'boost low',
  detail: ({ underPct }) => `manifold pressure ${tied(underPct.toFixed(1), '%')} under the setup's usual`,
};
