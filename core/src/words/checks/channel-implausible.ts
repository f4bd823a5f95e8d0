import { channelReading } from '../channel-reading.js';
import { channelWord } from '../labels.js';
import { listed } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const channelImplausible: CheckWords<'channel-implausible'> = {
  word: 'channel implausible',
  detail: ({ channels }, f) =>
    listed(
      channels.map(
        ({ key, column, device, value, low, high }) =>
          `${column} (${device}) reads ${channelReading(key, value, f)}: ${channelWord(key)} lies between ${channelReading(key, low, f)} and ${channelReading(key, high, f)} at full throttle`,
      ),
    ),
};
