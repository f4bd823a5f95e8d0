import type { CheckWords } from './check-words.js';

export const slip: CheckWords<'slip'> = {
  word: 'slip',
  detail: ({ offPct, atRpm }, f) => `roller speed is ${f.percent(offPct)} off what it usually is near ${f.rpm(atRpm)}`,
};
