import type { QuestionWords } from './question-words.js';

export const fadesLess: QuestionWords = {
  label: 'Fades less',
  answers: { gain: 'yes, less', loss: 'no, more' },
};
