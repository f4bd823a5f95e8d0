import { said } from '../said.js';
import type { AwayStretch } from '../pull/channel-faults.js';
import type { PullCurve } from '../pull/curve.js';
import { median } from '../numeric/means.js';
import type { Check } from './check.js';

/** Where any of these falls by such a share at the same time, it is the engine (a lift, a cut), not a plug. Assumption. */
const ENGINE = { channels: ['power', 'manifoldPressure', 'airMassFlow', 'throttle', 'pedal'], share: 0.15, besideS: 0.4 };

export const channelUnplugged: Check = {
  flag: 'channel-unplugged',
  leavesOut: false,
  suggestsLeavingOut: true,
  touches: ['power', 'temperature', 'restriction'],
  ofSetup: null,
  needs: [],
  inCell: null,
  thresholds: [
    {
      name: 'channel unplugged',
      value: '0.25 s, 40 % or 15 K',
      what: 'From one sample to the next away, still while it is, and as suddenly back or never: a plug or a wire. Where other channels do the same it is the engine.',
    },
  ],
  find({ curve }) {
    const away = curve?.faults.flatMap((fault) => (fault.kind === 'away' ? [fault] : [])) ?? [];
    const alone = away.filter((stretch) => !isTheEngine(curve!, stretch));
    if (alone.length === 0) return null;
    return {
      said: said('flag:channel-unplugged', {
        channels: alone.map(({ key, column, device, value, beside, fromS, toS }) => ({
          key,
          column,
          device,
          value,
          beside,
          seconds: toS - fromS,
        })),
      }),
      where: alone.map(({ key, fromS, toS }) => ({ channel: key, fromS, toS })),
    };
  },
};

/** Whether another channel that goes with the engine's load falls while one is away. */
function isTheEngine({ gridTimeS, channels }: PullCurve, { key, fromS, toS }: AwayStretch): boolean {
  return ENGINE.channels.some((other) => {
    const values = channels.get(other);
    if (!values || other === key) return false;
    const within = (low: number, high: number) =>
      values.filter((value, i) => gridTimeS[i]! >= low && gridTimeS[i]! <= high && Number.isFinite(value));
    const [during, before] = [within(fromS - 0.1, toS + 0.1), within(fromS - ENGINE.besideS, fromS - 0.1)];
    if (during.length === 0 || before.length === 0) return false;
    return during.reduce((a, b) => Math.min(a, b)) < (1 - ENGINE.share) * median(before);
  });
}
