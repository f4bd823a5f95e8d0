import type { Comparison, EstimatePct } from '@gezeit/contract';

/** The estimate that a comparison's verdict quotes; null where it cannot be given. */
export function leadingEstimate({
  leading,
  levelled,
  ownStart,
}: Pick<Comparison, 'leading' | 'levelled' | 'ownStart'>): EstimatePct | null {
  return leading === 'ownStart' ? ownStart : levelled;
}
