import type { QuestionWords } from './question-words.js';

export const noFaultCodes: QuestionWords = {
  label: 'No fault codes',
  answers: { gain: 'none', loss: 'there are' },
  found: (value) => (value === 0 ? 'No fault code was found' : `${value} fault ${value === 1 ? 'code was' : 'codes were'} found`),
};
