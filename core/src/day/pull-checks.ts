import type { Pull, PullDetail } from '@gezeit/contract';
import { CHECKS } from '../checks/index.js';

/** One thing that is looked at when a pull closes. */
export interface PullCheck {
  id: string;
  label: string;
  /** `unknown`: nothing logged says. */
  state: 'good' | 'bad' | 'note' | 'unknown';
  detail: string;
}

/** Flags that are looked at in the cell, those with one name together: what the checks themselves say of it. */
const LOOKED = [...new Set(Object.values(CHECKS).flatMap(({ inCell }) => inCell?.id ?? []))].map((id) => {
  const own = Object.values(CHECKS).filter(({ inCell }) => inCell?.id === id);
  return { id, label: own[0]!.inCell!.label, flags: own.map(({ flag }) => flag), needs: own.flatMap(({ needs }) => needs) };
});

/** The checks of a pull from its flags and from what was logged of it. */
export function pullChecks(flags: readonly PullDetail['flags'][number][], logged: readonly string[], startKnown: boolean): PullCheck[] {
  return LOOKED.map(({ id, label, flags: own, needs }) => {
    const found = flags.find(({ flag }) => own.includes(flag));
    if (found) return { id, label, state: found.leavesOut ? 'bad' : 'note', detail: found.detail };
    const isKnown = id === 'start' ? startKnown : needs.some((channel) => logged.includes(channel));
    return isKnown ? { id, label, state: 'good', detail: 'as it should be' } : { id, label, state: 'unknown', detail: 'not logged' };
  });
}

/** What is known of a pull while its day runs. */
export interface PullOfDay {
  id: string;
  kind: Pull['kind'];
  isUnderWay: boolean;
  aborted: boolean;
  /** Its figures were typed from a screen. */
  typed: boolean;
  checks: readonly PullCheck[];
  /** Codes of why it is left out; empty where it counts. */
  leftOut: readonly string[];
}

/** Whether a pull that was driven to be compared cannot be, by what was looked at when it closed: it may still be repeated. */
export const isNoGood = ({ kind, isUnderWay, aborted, typed, checks }: PullOfDay): boolean =>
  kind === 'measured' && !isUnderWay && !aborted && !typed && checks.some(({ state }) => state === 'bad');
