import type { CheckWords } from './check-words.js';

export const gearDiffers: CheckWords<'gear-differs'> = {
  word: 'gear differs',
  detail: ({ gear, usualGear, differencePct }, f) =>
    gear !== null
      ? `driven in gear ${gear}, the setup’s other pulls in gear ${usualGear}`
      : `the speed at one engine speed is ${f.percent(differencePct!)} off the setup’s other pulls: another gear, or the speed is read otherwise`,
};
