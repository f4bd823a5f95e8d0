import { evidenceOnly } from './limit.js';

/** Did no fault code come? Counted by hand: one is too many. */
export const noFaultCodes = evidenceOnly('no-fault-codes', { smallest: 1, unit: 'pct' }, 'codes');
