import { said } from '../said.js';
import type { Check } from './check.js';
import { endsAlike, flatBeyondChance } from './flat-channel.js';

export const channelSaturated: Check = {
  flag: 'channel-saturated',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power', 'temperature', 'restriction'],
  ofSetup: null,
  needs: [],
  inCell: null,
  thresholds: [
    {
      name: 'channel saturated',
      value: '0.25 s',
      what: 'It stands still at its highest or lowest reading, and on another pull of the setup at the same one: the sensor, or the logger, reaches no further.',
    },
  ],
  find(input) {
    const ends = flatBeyondChance(input).filter((flat) => endsAlike(flat, input.curve!, input.peers.sameSetup));
    if (ends.length === 0) return null;
    return {
      said: said('flag:channel-saturated', { channels: ends.map(({ key, column, device, value }) => ({ key, column, device, value })) }),
      where: ends.map(({ key, fromS, toS }) => ({ channel: key, fromS, toS })),
    };
  },
};
