import { whole } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const timingPulled: CheckWords<'timing-pulled'> = {
  word: 'spark pulled',
  detail: ({ degrees, sharePct }) => `spark pulled by more than ${degrees}° over ${whole(sharePct)} of the band`,
};
