import { channelReading } from '../channel-reading.js';
import { listed } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const channelSaturated: CheckWords<'channel-saturated'> = {
  word: 'channel saturated',
  detail: ({ channels }, f) =>
    listed(
      channels.map(({ key, column, device, value }) => `${column} (${device}) reaches no further than ${channelReading(key, value, f)}`),
    ),
};
