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
import { wobble } from './wobble.js';
import { outlier } from './outlier.js';
import { learning } from './learning.js';
import { misfire } from './misfire.js';
import { boostOffTarget } from './boost-off-target.js';
import { rampDiffers } from './ramp-differs.js';
import { gearDiffers } from './gear-differs.js';
import { smoothingDiffers } from './smoothing-differs.js';
import { dropNotSquare } from './drop-not-square.js';
import { copied } from './copied.js';
import { devicesContradict } from './devices-contradict.js';
import { channelStuck } from './channel-stuck.js';
import { channelSaturated } from './channel-saturated.js';
import { channelUnplugged } from './channel-unplugged.js';
import { channelImplausible } from './channel-implausible.js';

/** Every check of a pull, by its flag: a forgotten one does not compile. */
export const CHECKS: Readonly<Record<PullFlag, Check>> = {
  short,
  'throttle-closed': throttleClosed,
  slip,
  'boost-low': boostLow,
  lean,
  copied,
  'timing-pulled': timingPulled,
  spike,
  'air-meter-implausible': airMeterImplausible,
  'started-hot': startedHot,
  'started-cold': startedCold,
  typed,
  wobble,
  outlier,
  learning,
  misfire,
  'boost-off-target': boostOffTarget,
  'ramp-differs': rampDiffers,
  'gear-differs': gearDiffers,
  'smoothing-differs': smoothingDiffers,
  'drop-not-square': dropNotSquare,
  'devices-contradict': devicesContradict,
  'channel-stuck': channelStuck,
  'channel-saturated': channelSaturated,
  'channel-unplugged': channelUnplugged,
  'channel-implausible': channelImplausible,
};

export interface FlagDetail extends CheckFinding {
  flag: PullFlag;
}

/** Flags of one pull within a band. */
export function flagsOf(input: CheckInput): FlagDetail[] {
  return Object.values(CHECKS).flatMap((check) => {
    const found = check.find(input);
    return found ? [{ flag: check.flag, ...found }] : [];
  });
}
