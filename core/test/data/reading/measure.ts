import { GezeitError, readLog, reasonsText, type ReadReport } from '../../../src/index.js';
import type { TrueColumn, WrittenTable } from './write.js';

/** How a column was taken. */
export type Outcome = 'right' | 'unknown' | 'wrong';

export interface Judged {
  column: TrueColumn;
  outcome: Outcome;
  taken: string;
  why: string;
}

/** What is read of a written table, against the truth, column by column. */
export function judge({ text, columns }: WrittenTable): Judged[] {
  let report: ReadReport | null = null;
  try {
    ({ report } = readLog(new TextEncoder().encode(text), { file: 'corpus.csv' }));
  } catch (error) {
    // A refused table: nothing of it is known, and it says so.
    if (!(error instanceof GezeitError)) throw error;
  }
  return columns.map((column, i) => judged(column, report?.columns[i]));
}

function judged(column: TrueColumn, got: ReadReport['columns'][number] | undefined): Judged {
  const taken = got?.takenFor ?? null;
  const say = (outcome: Outcome, why = ''): Judged => ({ column, outcome, taken: taken ?? (got?.rivals[0] ? `(${got.rivals[0].quantity} ${got.rivals[0].sure})` : '–'), why });
  if (column.quantity === null) return say(taken === null ? 'right' : 'wrong', 'none of ours');
  if (taken === null) return say('unknown', reasonsText(got?.reasons ?? []));
  if (taken !== column.quantity && !(column.quantity === 'boostPressure' && taken === 'manifoldPressure' && got!.gauge)) return say('wrong', 'another quantity');
  if (column.quantity === 'time') return say('right');
  // A hose is a duct under its own name.
  if (column.section && got!.section !== column.section && !(column.section === 'duct' && got!.section === 'hose')) return say('wrong', `section ${got!.section}`);
  const allowed = 0.03 * Math.max(Math.abs(column.low!), Math.abs(column.high!)) + 0.02 * (column.high! - column.low!) + (column.quantity === 'lambda' ? 0.06 : 0);
  if (Math.abs(got!.low! - column.low!) > allowed || Math.abs(got!.high! - column.high!) > allowed)
    return say('wrong', `reads ${got!.low!.toPrecision(4)} … ${got!.high!.toPrecision(4)}, true ${column.low!.toPrecision(4)} … ${column.high!.toPrecision(4)}`);
  return say('right');
}
