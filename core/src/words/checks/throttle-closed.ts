import { whole } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const throttleClosed: CheckWords<'throttle-closed'> = {
  word: 'throttle closed',
  detail: ({ underPct, sharePct, fromRpm }, f) =>
    `throttle under ${whole(underPct)} over ${whole(sharePct)} of the band, from ${f.rpm(fromRpm)}`,
};
