import type { CheckWords } from './check-words.js';

export const short: CheckWords<'short'> = {
  word: 'stops short',
  detail: ({ fromRpm, toRpm, bandRpm }, f) => `covers ${f.band([fromRpm, toRpm])} of the band ${f.band(bandRpm)}`,
};
