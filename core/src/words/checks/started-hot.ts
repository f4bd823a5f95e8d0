import type { CheckWords } from './check-words.js';

export const startedHot: CheckWords<'started-hot'> = {
  word: 'started hot',
  detail: ({ apartK }, f) => `started ${f.temperatureSpan(apartK)} hotter than the day's usual`,
};
