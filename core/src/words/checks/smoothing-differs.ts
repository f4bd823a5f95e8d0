import { plain } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const smoothingDiffers: CheckWords<'smoothing-differs'> = {
  word: 'smoothing differs',
  detail: ({ times }) =>
    times > 1
      ? `power is ${plain(times, 1)} times as rough as in the setup’s other pulls: exported with less smoothing, or noisier`
      : `power is ${plain(1 / times, 1)} times smoother than in the setup’s other pulls: exported with more smoothing`,
};
