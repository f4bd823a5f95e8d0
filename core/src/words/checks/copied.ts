import type { CheckWords } from './check-words.js';

export const copied: CheckWords<'copied'> = {
  word: 'a copy',
  detail: ({ of }) => `the same power at every engine speed, at the same times, as ${of}: one measurement that stands there twice`,
};
