import type { PullFlag } from '@gezeit/contract';
import { FLAG_WORDS, LEFT_OUT_WORDS } from '@gezeit/core';

/** Why a pull is left out, in words: a flag, something missing, its kind, or what the engineer wrote. */
export function reasonWord(reason: string): string {
  return (LEFT_OUT_WORDS as Record<string, string>)[reason] ?? (reason in FLAG_WORDS ? FLAG_WORDS[reason as PullFlag] : reason);
}
