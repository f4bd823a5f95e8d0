import type { CheckWords } from './check-words.js';

export const spike: CheckWords<'spike'> = {
  word: 'spike masked',
  detail: ({ columns }) =>
    columns.map(({ name, file, samples }) => `${name} (${file}): ${samples} ${samples === 1 ? 'sample' : 'samples'} masked`).join('; '),
};
