import type { Quantity } from '@gezeit/contract';
import { PLAUSIBLE } from '../checks/plausible.js';
import { channelReading } from './channel-reading.js';
import { PLAIN_FORMATTER } from '../format/plain-formatter.js';
import { quantityWords } from '../channels/quantity-words.js';

/** What a channel can read at full throttle, in words: for the document of the checks. */
export const plausibleText = (): { name: string; low: string; high: string }[] =>
  Object.entries(PLAUSIBLE).map(([quantity, [low, high]]) => ({
    name: quantityWords(quantity as Quantity),
    low: channelReading(quantity, low, PLAIN_FORMATTER),
    high: channelReading(quantity, high, PLAIN_FORMATTER),
  }));
