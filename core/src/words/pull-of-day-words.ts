import type { Pull } from '@gezeit/contract';
import { pullReasonWord } from './pull-reason.js';

/** What is known of a pull while its day runs. */
export interface PullOfDay {
  id: string;
  kind: Pull['kind'];
  isUnderWay: boolean;
  aborted: boolean;
  /** Its figures were typed from a screen. */
  typed: boolean;
  checks: readonly { state: 'good' | 'bad' | 'note' | 'unknown'; detail: string }[];
  /** Codes of why it is left out; empty where it counts. */
  leftOut: readonly string[];
}

/** Whether a pull of the day counts, and why not, in a sentence. */
export function pullOfDayText({ id, kind, isUnderWay, aborted, typed, checks, leftOut }: PullOfDay): string {
  const isMeasured = kind === 'measured';
  const out = leftOut.map(pullReasonWord).join(', ');
  if (isUnderWay) return `Pull ${id} under way.`;
  if (aborted) return `Pull ${id} aborted: kept, not counted; it heats and teaches the car all the same.`;
  if (typed) {
    const counts = !isMeasured ? '' : out ? ` Left out: ${out}.` : ' It counts.';
    return `Pull ${id}: figures typed from the cell’s screen.${counts}`;
  }
  if (checks.length === 0) return `Pull ${id}: no file yet.`;
  if (!isMeasured) return `Pull ${id}: ${kind}, never compared.`;
  const bad = checks.filter(({ state }) => state === 'bad').map(({ detail }) => detail);
  if (bad.length > 0) return `Pull ${id} is no good: ${bad.join('; ')}.`;
  return out ? `Pull ${id} left out: ${out}.` : `Pull ${id} counts.`;
}
