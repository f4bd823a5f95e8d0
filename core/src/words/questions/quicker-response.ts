import type { QuestionWords } from './question-words.js';

export const quickerResponse: QuestionWords = {
  label: 'Quicker response',
  answers: { gain: 'yes, quicker', loss: 'no, slower' },
};
