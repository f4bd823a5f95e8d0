import { isNoGood, type PullOfDay } from '../day/pull-checks.js';
import { pullReasonWord } from './pull-reason.js';

/** Whether a pull of the day counts, and why not, in a sentence. */
export function pullOfDayText(pull: PullOfDay): string {
  const { id, kind, isUnderWay, aborted, typed, checks } = pull;
  const isMeasured = kind === 'measured';
  const leftOut = pull.leftOut.map(pullReasonWord).join(', ');
  if (isUnderWay) return `Pull ${id} under way.`;
  if (aborted) return `Pull ${id} aborted: kept, not counted; it heats and teaches the car all the same.`;
  if (typed) {
    const counts = !isMeasured ? '' : leftOut ? ` Left out: ${leftOut}.` : ' It counts.';
    return `Pull ${id}: figures typed from the cell’s screen.${counts}`;
  }
  if (checks.length === 0) return `Pull ${id}: no file yet.`;
  if (!isMeasured) return `Pull ${id}: ${kind}, never compared.`;
  if (isNoGood(pull)) {
    const bad = checks.filter(({ state }) => state === 'bad').map(({ detail }) => detail);
    return `Pull ${id} is no good: ${bad.join('; ')}.`;
  }
  return leftOut ? `Pull ${id} left out: ${leftOut}.` : `Pull ${id} counts.`;
}
