import type { Affected, Confound, ConfoundCode } from '@gezeit/contract';
import type { AnySaid } from '../said.js';

/** Something besides the part that differs: what it touches, and what it withholds here and now. */
export interface Cloud {
  code: ConfoundCode;
  said: AnySaid;
  affects: readonly Affected[];
  withholds: readonly Affected[];
}

/** A confound that a poor reference makes: it flatters the new part, so that a loss stands all the same. */
const A_LOSS_STANDS: readonly ConfoundCode[] = ['condition-not-met'];

/**
 * Why an answer about something is withheld; empty where it is not.
 * @param except codes that belong to what is asked (a package contains its tune).
 * @param isLoss whether the answer would be a loss: some clouds cannot have made it.
 */
export function withholding(
  clouds: readonly Cloud[],
  what: Affected,
  { except = [], isLoss = false }: { except?: readonly ConfoundCode[]; isLoss?: boolean } = {},
): AnySaid[] {
  return clouds
    .filter(({ code, withholds }) => withholds.includes(what) && !except.includes(code) && !(isLoss && A_LOSS_STANDS.includes(code)))
    .map(({ said }) => said);
}

/** A cloud as the findings have it; its words are written later. */
export function confoundOf({ code, said, affects, withholds }: Cloud): Confound {
  return { code, detail: '', said: { detail: [said] }, affects: [...affects], withholds: [...withholds] };
}
