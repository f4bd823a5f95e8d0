import type { ProgrammeView, PullDetail } from '@gezeit/contract';
import { AMENDED_WORDS, FLAG_WORDS, pullReasonWord } from '@gezeit/core';
import type { PullRow } from './pull-columns.js';

/** What is said of a pull beside its figures. */
export interface PullSays {
  /** What it was driven for, where it is not measured. */
  kind: string | null;
  /** Why it was left out by hand. */
  byHand: string | null;
  /** Used in spite of the rules. */
  forced: boolean;
  flags: PullDetail['flags'];
  /** What leaves it out beside flags and a hand: flags stand as such already. */
  why: string[];
  amended: string;
  warnings: readonly string[];
  badChance: number | null;
  /** What was done about leaving it out, the newest first. */
  history: readonly string[];
}

/** What was done about leaving each pull out, the newest first, also where it was taken back; in the time zone of the cell. */
export function exclusionHistory(exclusions: ProgrammeView['exclusions'], timeZone: string | null): Map<string, string[]> {
  const told = new Map<string, string[]>();
  for (const { pull, at, by, said, undone } of exclusions) {
    const what = typeof said === 'string' ? `left out: ${said}` : said === false ? 'used in spite of the rules' : 'left to the rules';
    const when = new Date(at).toLocaleString('en-GB', {
      day: 'numeric',
      month: 'short',
      hour: '2-digit',
      minute: '2-digit',
      timeZone: timeZone ?? undefined,
    });
    told.set(pull, [...(told.get(pull) ?? []), `${what} (${by}, ${when}${undone ? '; taken back' : ''})`]);
  }
  return told;
}

/** What is said of a row's pull. */
export function pullSays({ finding, pull, detail }: PullRow, history: readonly string[]): PullSays {
  const kind = pull.kind === 'measured' ? null : pull.kind;
  const byHand = typeof pull.excluded === 'string' ? pull.excluded : null;
  return {
    kind,
    byHand,
    forced: pull.excluded === false,
    flags: detail?.flags ?? [],
    why: finding.reasons.filter((reason) => reason !== kind && reason !== byHand && !(reason in FLAG_WORDS)).map(pullReasonWord),
    amended: (pull.amended ?? []).map(({ what, by, why }) => `${AMENDED_WORDS[what] ?? what}, by ${by}: ${why}`).join('; '),
    warnings: finding.warnings,
    badChance: detail?.badChance ?? null,
    history,
  };
}
