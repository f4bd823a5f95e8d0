import { tied } from '../../format/values.js';
import type { QuestionWords } from './question-words.js';

export const mixtureWithin: QuestionWords = {
  label: 'Mixture within its limit',
  answers: { gain: 'yes', loss: 'no' },
  limit: { what: 'the mixture', kind: 'lambda', text: (limit) => `±${tied(limit.toFixed(3), 'λ')}` },
};
