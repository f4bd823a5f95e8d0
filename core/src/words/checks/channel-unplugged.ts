import { channelReading, secondsText } from '../channel-reading.js';
import { listed } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const channelUnplugged: CheckWords<'channel-unplugged'> = {
  word: 'channel unplugged',
  detail: ({ channels }, f) =>
    listed(
      channels.map(
        ({ key, column, device, value, beside, seconds }) =>
          `${column} (${device}) jumps from ${channelReading(key, beside, f)} to ${channelReading(key, value, f)} for ${secondsText(seconds)}`,
      ),
    ),
};
