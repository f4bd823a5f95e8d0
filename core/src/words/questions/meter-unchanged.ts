import { tied } from '../../format/values.js';
import type { QuestionWords } from './question-words.js';

export const meterUnchanged: QuestionWords = {
  label: 'Air meter unchanged',
  answers: { gain: 'yes', loss: 'no' },
  limit: { what: 'the meter against the fuel', kind: 'percent', text: (limit) => `±${tied(`${limit}`, '%')}` },
};
