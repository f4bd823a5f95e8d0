import { channelReading } from '../channel-reading.js';
import { channelWord } from '../labels.js';
import { listed, sentence } from '../../format/values.js';
import type { CheckWords } from './check-words.js';

export const devicesContradict: CheckWords<'devices-contradict'> = {
  word: 'devices contradict one another',
  detail: ({ apart }, f) =>
    listed(
      apart.map(
        ({ key, first, firstMean, second, secondMean }) =>
          `${sentence(channelWord(key))}: ${first} says ${channelReading(key, firstMean, f)} over the sweep, ${second} ${channelReading(key, secondMean, f)}, further apart than their sensors allow`,
      ),
    ),
};
