import type { QuestionWords } from './question-words.js';

export const lessRestriction: QuestionWords = {
  label: 'Less restriction',
  answers: { gain: 'yes, less', loss: 'no, more' },
};
