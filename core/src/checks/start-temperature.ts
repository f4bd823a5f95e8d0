import { said } from '../said.js';
import type { PullCurve } from '../pull/curve.js';
import type { Check, CheckInput } from './check.js';
import { median } from '../numeric/means.js';

/** Intake air at the start above ambient against the day's median, K; assumption. */
const START_APART_K = 10;

/** Intake air at the start above ambient, K; null where either is missing. */
export function startAboveAmbientK({ start, air }: PullCurve): number | null {
  return start.intakeAirC === null || !air ? null : start.intakeAirC - air.temperatureC;
}

function apartK({ curve, peers }: CheckInput): number {
  const own = curve && startAboveAmbientK(curve);
  return own === null || peers.startAboveAmbientK.length < 3 ? 0 : own - median(peers.startAboveAmbientK);
}

const shared = {
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power', 'temperature'],
  ofSetup: { affects: ['power'], withholds: [] },
  needs: [],
  inCell: { id: 'start', label: 'Start state' },
} as const;

export const startedHot: Check = {
  ...shared,
  flag: 'started-hot',
  thresholds: [{ name: 'start apart', value: `${START_APART_K} K`, what: "Intake air above ambient against the day's median." }],
  find(input) {
    const apart = apartK(input);
    return apart > START_APART_K ? { said: said('flag:started-hot', { apartK: apart }) } : null;
  },
};

export const startedCold: Check = {
  ...shared,
  flag: 'started-cold',
  thresholds: [],
  find(input) {
    const apart = -apartK(input);
    return apart > START_APART_K ? { said: said('flag:started-cold', { apartK: apart }) } : null;
  },
};
