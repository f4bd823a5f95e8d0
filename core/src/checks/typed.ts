import { said } from '../said.js';
import type { Check } from './check.js';

export const typed: Check = {
  flag: 'typed',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power'],
  ofSetup: { affects: ['power'], withholds: [] },
  needs: [],
  inCell: null,
  thresholds: [],
  find: ({ curve, typed: figures }) => (!curve && figures ? { said: said('flag:typed', { corrected: figures.corrected ?? null }) } : null),
};
