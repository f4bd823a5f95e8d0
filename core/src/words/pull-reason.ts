import type { PullFlag } from '@gezeit/contract';
import { FLAG_WORDS } from './checks/index.js';
import { LEFT_OUT_WORDS } from './labels.js';

/** Why a pull is left out, in words: a flag, something missing, its kind, or what the engineer wrote. */
export function pullReasonWord(reason: string): string {
  return (LEFT_OUT_WORDS as Record<string, string>)[reason] ?? (reason in FLAG_WORDS ? FLAG_WORDS[reason as PullFlag] : reason);
}
