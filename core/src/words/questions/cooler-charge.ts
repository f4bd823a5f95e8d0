import type { QuestionWords } from './question-words.js';

export const coolerCharge: QuestionWords = {
  label: 'Cooler charge',
  answers: { gain: 'yes, cooler', loss: 'no, hotter' },
};
