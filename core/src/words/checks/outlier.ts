import type { CheckWords } from './check-words.js';

export const outlier: CheckWords<'outlier'> = {
  word: 'outlier',
  detail: ({ offPct, others }, f) =>
    `mean power from the same start is ${f.percent(offPct)} off the middle of the setup’s ${others} other pulls; it is weighed down already`,
};
