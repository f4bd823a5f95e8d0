import type { CheckWords } from './check-words.js';

export const startedCold: CheckWords<'started-cold'> = {
  word: 'started cold',
  detail: ({ apartK }, f) => `started ${f.temperatureSpan(apartK)} cooler than the day's usual`,
};
