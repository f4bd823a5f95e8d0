import type { CheckWords } from './check-words.js';

export const airMeterImplausible: CheckWords<'air-meter-implausible'> = {
  word: 'air meter implausible',
  detail: ({ offPct }, f) => `air mass flow is ${f.percent(offPct, 0)} from what this power needs`,
};
