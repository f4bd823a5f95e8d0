import { SAME_CURVE } from '../pull/same-curve.js';
import { said } from '../said.js';
import type { Check } from './check.js';

export const copied: Check = {
  flag: 'copied',
  leavesOut: true,
  suggestsLeavingOut: false,
  touches: ['power', 'temperature', 'restriction'],
  ofSetup: { affects: ['power', 'temperature', 'restriction'], withholds: ['power', 'temperature', 'restriction'] },
  needs: ['power', 'torque'],
  inCell: { id: 'copied', label: 'A run of its own' },
  thresholds: [
    {
      name: 'copied',
      value: `${100 * SAME_CURVE.middleShare} %, ${1000 * SAME_CURVE.courseS} ms`,
      what: 'Power in the middle of all engine speeds, and the time of each, no further from those of an earlier pull: one measurement that stands there twice.',
    },
  ],
  find({ peers }) {
    return peers.copyOf === null ? null : { said: said('flag:copied', { of: peers.copyOf }) };
  },
};
