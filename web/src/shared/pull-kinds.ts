import type { PullKind } from '@gezeit/contract';

/** Kinds of pull, as they are chosen from. */
export const PULL_KINDS: Readonly<Record<PullKind, string>> = {
  measured: 'measured',
  conditioning: 'conditioning',
  tuning: 'tuning',
  steady: 'steady load or idle soak',
  drive: 'drive: laps or a long run',
};
