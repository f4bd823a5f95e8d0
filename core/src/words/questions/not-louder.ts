import { tied } from '../../format/values.js';
import type { QuestionWords } from './question-words.js';

export const notLouder: QuestionWords = {
  label: 'No louder',
  answers: { gain: 'yes', loss: 'no' },
  limit: { what: 'the sound level', kind: 'percent', text: (limit) => tied(`${limit}`, 'dB') },
};
