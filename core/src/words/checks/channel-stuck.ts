import { channelReading, secondsText } from '../channel-reading.js';
import { listed } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const channelStuck: CheckWords<'channel-stuck'> = {
  word: 'channel stuck',
  detail: ({ channels }, f) =>
    listed(
      channels.map(
        ({ key, column, device, value, seconds }) =>
          `${column} (${device}) stands at ${channelReading(key, value, f)} for ${secondsText(seconds)}`,
      ),
    ),
};
