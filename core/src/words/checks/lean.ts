import { whole } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const lean: CheckWords<'lean'> = {
  word: 'lean',
  detail: ({ lambda, sharePct }) => `lambda above ${lambda.toFixed(2)} over ${whole(sharePct)} of the band: stop and find the reason`,
};
