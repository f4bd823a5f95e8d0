import type { PullFlag } from '@gezeit/contract';

/** Flags in plain words. */
export const FLAG_WORDS: Record<PullFlag, string> = {
  'throttle-closed': 'throttle closed',
  slip: 'slip',
  short: 'stops short',
  'boost-low': 'boost low',
  lean: 'lean',
  'timing-pulled': 'spark pulled',
  spike: 'spike masked',
  'air-meter-implausible': 'air meter implausible',
  'started-hot': 'started hot',
  'started-cold': 'started cold',
  typed: 'typed',
};
