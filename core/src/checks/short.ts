import { said } from '../said.js';
import { COVER_TOLERANCE_RPM, type Band } from '../pull/band.js';
import type { PullCurve } from '../pull/curve.js';
import type { Check } from './check.js';

/** Whether a pull covers a band, within the tolerance. */
export function covers({ gridRpm }: PullCurve, band: Band): boolean {
  return (gridRpm[0] ?? Infinity) <= band[0] + COVER_TOLERANCE_RPM && (gridRpm.at(-1) ?? -Infinity) >= band[1] - COVER_TOLERANCE_RPM;
}

export const short: Check = {
  flag: 'short',
  leavesOut: true,
  suggestsLeavingOut: false,
  touches: ['power'],
  ofSetup: { affects: ['power'], withholds: [] },
  needs: ['power', 'torque'],
  inCell: { id: 'range', label: 'Speed range' },
  thresholds: [],
  find({ curve, band }) {
    if (!curve || covers(curve, band)) return null;
    return { said: said('flag:short', { fromRpm: curve.gridRpm[0] ?? 0, toRpm: curve.gridRpm.at(-1) ?? 0, bandRpm: band }) };
  },
};
