import { bandMean } from '../pull/band.js';
import { loggedLimit } from './limit.js';

/** Did the mixture stay within its limit? */
export const mixtureWithin = loggedLimit({
  kind: 'mixture-within',
  of: 'lambda',
  limit: { smallest: 0.02, unit: 'lambda' },
  channels: ['lambda'],
  value: ({ curve }, band) => curve && bandMean(curve, 'lambda', band),
});
