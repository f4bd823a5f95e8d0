import { listed } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const dropNotSquare: CheckWords<'drop-not-square'> = {
  word: 'drop does not follow flow squared',
  detail: ({ sections }, f) =>
    `${listed(sections.map(({ section, atRpm, stepPct }) => `the drop${section ? ` over the ${section}` : ''} changes by ${f.percent(stepPct, 0)} at ${f.rpm(atRpm)}`))}: a flap, a second inlet, or something that gives way`,
};
