import type { BoardEntry } from '@gezeit/contract';
import { QUESTION_LABELS } from '@gezeit/core';

/** The answers of the board as columns of a table, a row for each. */
export function boardColumns(entries: readonly BoardEntry[]) {
  const rows = entries.flatMap((entry) => entry.answers.map((answer) => ({ entry, answer })));
  return [
    { header: 'programme', values: rows.map(({ entry }) => entry.title) },
    { header: 'candidate', values: rows.map(({ answer }) => answer.candidateName) },
    { header: 'question', values: rows.map(({ answer }) => (answer.kind ? QUESTION_LABELS[answer.kind] : '')) },
    { header: 'answer', values: rows.map(({ answer }) => answer.answer) },
    { header: 'estimate', values: rows.map(({ answer }) => answer.estimate) },
    { header: 'low', values: rows.map(({ answer }) => answer.low) },
    { header: 'high', values: rows.map(({ answer }) => answer.high) },
    { header: 'unit', values: rows.map(({ answer }) => (answer.unit === 'pct' ? '%' : answer.unit)) },
    { header: 'smallest that matters', values: rows.map(({ answer }) => answer.smallest) },
  ];
}
