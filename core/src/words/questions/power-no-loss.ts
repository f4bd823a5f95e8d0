import type { QuestionWords } from './question-words.js';

export const powerNoLoss: QuestionWords = {
  label: 'Loses nothing',
  answers: { gain: 'yes', loss: 'no' },
};
