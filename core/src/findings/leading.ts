import type { Comparison, EstimatePct } from '@gezeit/contract';

/** The estimate that a comparison's verdict quotes; null where it cannot be given. */
export function leadingEstimate({
  leading,
  levelled,
  ownStart,
}: Pick<Comparison, 'leading' | 'levelled' | 'ownStart'>): EstimatePct | null {
  return leading === 'ownStart' ? ownStart : levelled;
}

const POWER_KINDS = ['power-gain', 'power-no-loss', 'package-gain'];

/** Whether the answer about power that leads a comparison is withheld: then no figure of power leads anywhere. */
export function isPowerWithheld({ answers, verdict }: Pick<Comparison, 'answers' | 'verdict'>): boolean {
  return (answers.find(({ kind }) => POWER_KINDS.includes(kind))?.answer ?? verdict.power) === 'withheld';
}
