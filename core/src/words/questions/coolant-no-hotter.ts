import type { QuestionWords } from './question-words.js';

export const coolantNoHotter: QuestionWords = {
  label: 'Coolant no hotter',
  answers: { gain: 'yes', loss: 'no' },
  limit: { what: 'coolant in the band', kind: 'temperatureDifference', text: (limit, f) => f.temperatureSpan(limit) },
};
