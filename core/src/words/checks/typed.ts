import { CORRECTION_NAMES } from '../labels.js';
import type { CheckWords } from './check-words.js';

export const typed: CheckWords<'typed'> = {
  word: 'typed',
  detail: ({ corrected }) =>
    corrected && corrected !== 'NONE'
      ? `figures read off a screen or sheet, corrected by ${CORRECTION_NAMES[corrected] ?? corrected} there`
      : 'figures read off a screen or sheet',
};
