import type { PullFlag } from '@gezeit/contract';
import { airMeterImplausible } from './air-meter-implausible.js';
import { boostLow } from './boost-low.js';
import type { Check, CheckFinding, CheckInput } from './check.js';
import { lean } from './lean.js';
import { short } from './short.js';
import { slip } from './slip.js';
import { spike } from './spike.js';
import { startedCold, startedHot } from './start-temperature.js';
import { throttleClosed } from './throttle-closed.js';
import { timingPulled } from './timing-pulled.js';
import { typed } from './typed.js';

/** Every check of a pull, by its flag: a forgotten one does not compile. */
export const CHECKS: Readonly<Record<PullFlag, Check>> = {
  short,
  'throttle-closed': throttleClosed,
  slip,
  'boost-low': boostLow,
  lean,
  'timing-pulled': timingPulled,
  spike,
  'air-meter-implausible': airMeterImplausible,
  'started-hot': startedHot,
  'started-cold': startedCold,
  typed,
};

export interface FlagDetail extends CheckFinding {
  flag: PullFlag;
}

/** Flags that leave a pull out unless every pull of its setup has them. */
export const leavesOut = (flag: PullFlag): boolean => CHECKS[flag].leavesOut;

/** Flags of one pull within a band. */
export function flagsOf(input: CheckInput): FlagDetail[] {
  return Object.values(CHECKS).flatMap((check) => {
    const found = check.find(input);
    return found ? [{ flag: check.flag, ...found }] : [];
  });
}
