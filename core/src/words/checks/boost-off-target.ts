import { plain, tied } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const boostOffTarget: CheckWords<'boost-off-target'> = {
  word: 'boost off target',
  detail: ({ meanPa, targetPa, wanderPct }, f) =>
    targetPa === null
      ? `manifold pressure wanders by ± ${tied(plain(wanderPct ?? 0, 1), '%')} about ${f.pressure(meanPa)}`
      : `manifold pressure is ${f.pressure(meanPa)} in the band, its target ${f.pressure(targetPa)}`,
};
