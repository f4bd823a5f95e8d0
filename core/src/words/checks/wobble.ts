import type { CheckWords } from './check-words.js';

export const wobble: CheckWords<'wobble'> = {
  word: 'wobble or dip',
  detail: ({ offPct, atRpm, widthRpm }, f) =>
    `power is ${f.percent(offPct)} off the setup’s other pulls near ${f.rpm(atRpm)}, over ${f.rpm(widthRpm)}; it is weighed down already`,
};
