import { bandMean } from '../pull/band.js';
import { loggedLimit } from './limit.js';

/** Does the coolant get no hotter? */
export const coolantNoHotter = loggedLimit({
  kind: 'coolant-no-hotter',
  of: 'coolantTemperature',
  limit: { smallest: 3, unit: 'K' },
  channels: ['coolantTemperature'],
  upwardsOnly: true,
  value: ({ curve }, band) => curve && bandMean(curve, 'coolantTemperature', band),
});
