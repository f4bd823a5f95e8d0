import type { PullDetail } from '@gezeit/contract';
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
