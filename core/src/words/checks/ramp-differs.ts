import { secondsText } from '../channel-reading.js';
import type { CheckWords } from './check-words.js';

export const rampDiffers: CheckWords<'ramp-differs'> = {
  word: 'ramp differs',
  detail: ({ seconds, usualS }) => `${secondsText(seconds)} through the band, the setup’s other pulls take ${secondsText(usualS)}`,
};
