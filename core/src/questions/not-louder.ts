import { evidenceOnly } from './limit.js';

/** Is it no louder? A difference of sound levels, read by hand. */
export const notLouder = evidenceOnly('not-louder', { smallest: 1, unit: 'dB' }, 'dB');
