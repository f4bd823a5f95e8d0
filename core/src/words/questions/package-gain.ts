import type { QuestionWords } from './question-words.js';

export const packageGain: QuestionWords = {
  label: 'Part and tune together',
  answers: {},
  bound: 'a bound: at most',
};
