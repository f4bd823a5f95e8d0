import type { QuestionWords } from './question-words.js';

export const powerGain: QuestionWords = {
  label: 'Gain',
  answers: {},
  bound: 'a bound: at most',
};
