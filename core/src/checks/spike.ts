import { said } from '../said.js';
import type { Check } from './check.js';

export const spike: Check = {
  flag: 'spike',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power'],
  ofSetup: null,
  needs: ['power', 'torque'],
  inCell: { id: 'spike', label: 'Spikes' },
  thresholds: [],
  find: ({ curve }) => (curve && curve.spikes.length > 0 ? { said: said('flag:spike', { columns: curve.spikes }) } : null),
};
