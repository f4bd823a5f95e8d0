import type { Bundle } from '@gezeit/contract';
import { GezeitError } from '@gezeit/core';
import { addDay, emptyCount, prepareRehearsal, type RehearsalCount } from '@gezeit/core/rehearse';

export interface RehearseQuestion {
  bundle: Bundle;
  truePct: number;
  days: number;
}
export type RehearseAnswer =
  | { kind: 'progress' | 'done'; withGain: RehearsalCount; without: RehearsalCount }
  | { kind: 'refused'; message: string };

/** Days between two words to the page. */
const TELL_EVERY = 5;

self.onmessage = ({ data }: MessageEvent<RehearseQuestion>) => {
  try {
    const rehearsal = prepareRehearsal(data.bundle);
    const [withGain, without] = [emptyCount(), emptyCount()];
    // Half of the days have the stated gain, half have none: the second tell what would be claimed that is not there.
    for (let day = 1; day <= data.days; day++) {
      const isWith = day % 2 === 1;
      addDay(isWith ? withGain : without, rehearsal.rehearse(day, isWith ? data.truePct : 0));
      if (day % TELL_EVERY === 0) self.postMessage({ kind: 'progress', withGain, without } satisfies RehearseAnswer);
    }
    self.postMessage({ kind: 'done', withGain, without } satisfies RehearseAnswer);
  } catch (error) {
    if (!(error instanceof GezeitError)) throw error;
    self.postMessage({ kind: 'refused', message: error.line } satisfies RehearseAnswer);
  }
};
