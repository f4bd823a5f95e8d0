import { said } from '../said.js';
import type { Check } from './check.js';
import { endsAlike, FLAT_RULES, flatBeyondChance } from './flat-channel.js';

export const channelStuck: Check = {
  flag: 'channel-stuck',
  leavesOut: false,
  suggestsLeavingOut: true,
  touches: ['power', 'temperature', 'restriction'],
  ofSetup: null,
  needs: [],
  inCell: null,
  thresholds: [
    {
      name: 'channel stuck',
      value: '0.25 s',
      what: `The same reading again and again, less likely by the channel’s own noise and the other pulls than e^${FLAT_RULES.lnChance}. Looked for in speeds, power, torque, pressures and air mass.`,
    },
  ],
  find(input) {
    const stuck = flatBeyondChance(input).filter((flat) => !endsAlike(flat, input.curve!, input.peers.sameSetup));
    if (stuck.length === 0) return null;
    return {
      said: said('flag:channel-stuck', {
        channels: stuck.map(({ key, column, device, fromS, toS, value }) => ({ key, column, device, seconds: toS - fromS, value })),
      }),
      where: stuck.map(({ key, fromS, toS }) => ({ channel: key, fromS, toS })),
    };
  },
};
