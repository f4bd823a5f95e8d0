import type { PullFlag } from '@gezeit/contract';
import { airMeterImplausible } from './air-meter-implausible.js';
import { boostLow } from './boost-low.js';
import { lean } from './lean.js';
import { short } from './short.js';
import { slip } from './slip.js';
import { spike } from './spike.js';
import { startedCold } from './started-cold.js';
import { startedHot } from './started-hot.js';
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
import type { CheckWords } from './check-words.js';

/** The words of every check, by its flag: a forgotten one does not compile. */
export const CHECK_WORDS: { readonly [F in PullFlag]: CheckWords<F> } = {
  'throttle-closed': throttleClosed,
  slip,
  short,
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

/** Flags in a word or two. */
export const FLAG_WORDS = Object.fromEntries(Object.entries(CHECK_WORDS).map(([flag, { word }]) => [flag, word])) as Readonly<
  Record<PullFlag, string>
>;
