import { said } from '../said.js';
import type { Check } from './check.js';

export const misfire: Check = {
  flag: 'misfire',
  leavesOut: false,
  suggestsLeavingOut: true,
  touches: ['power'],
  ofSetup: null,
  needs: ['power', 'torque'],
  inCell: null,
  thresholds: [
    {
      name: 'misfire',
      value: '3 dips of 3 %',
      what: 'Each shorter than 0.3 s and deeper than six times the scatter of power or torque about its course of half a second.',
    },
  ],
  find({ curve }) {
    const dips = curve?.faults.find((fault) => fault.kind === 'dips');
    if (dips?.kind !== 'dips') return null;
    return {
      said: said('flag:misfire', { count: dips.count, deepestPct: dips.deepestPct }),
      where: [{ channel: dips.key, fromS: dips.fromS, toS: dips.toS }],
    };
  },
};
