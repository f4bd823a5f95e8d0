import type { Reading } from '@gezeit/contract';

/** A reading for people: a block a file, then the pulls, then what has to be said by hand. */
export function readingTable({ files, pulls, unmatched, questions }: Reading): string {
  const lines: string[] = [];
  for (const { file, device, rows, time, columns, sweeps, problems } of files) {
    lines.push(
      `${file}: ${columns.length === 0 ? 'not read' : `${device}, ${rows} rows, ${time?.kind ?? (sweeps.length > 0 ? 'a curve' : 'no time')}, ${sweeps.length} ${sweeps.length === 1 ? 'sweep' : 'sweeps'}`}`,
    );
    const width = Math.max(0, ...columns.map(({ header }) => header.length));
    for (const { header, quantity, unit, section, sure, rivals, used, low, high, why } of columns) {
      const taken =
        quantity === null
          ? rivals[0]
            ? `? perhaps ${rivals.map((rival) => rival.quantity).join(', ')}`
            : '–'
          : `${quantity}${section ? ` (${section})` : ''}${unit ? `, ${unit}` : ''}`;
      const range = low === null || high === null ? '' : `  ${figure(low)} … ${figure(high)}`;
      lines.push(
        `  ${header.padEnd(width)}  ${taken}${range}${quantity === null ? '' : `  ${Math.round(100 * sure)} %`}${quantity !== null && !used ? '  (not used)' : ''}${quantity === null && why ? `  ${why}` : ''}`,
      );
    }
    for (const { row, what, todo } of problems) lines.push(`  ! ${row === null ? '' : `row ${row}: `}${what} ${todo}`);
  }
  if (pulls.length > 0) lines.push('');
  for (const { id, startedAt, members } of pulls) {
    const parts = members.map(
      ({ file, startS, how, withinS }) =>
        `${file}${startS === null ? '' : ` at ${startS.toFixed(1)} s`}${how === 'first' ? '' : ` (${how}${withinS === null ? '' : ` ± ${withinS} s`})`}`,
    );
    lines.push(`${id}  ${startedAt ?? 'time unknown'}  ${parts.join(', ')}`);
  }
  for (const { file, why } of unmatched) lines.push(`no pull: ${file}: ${why}`);
  for (const { what, choices } of questions) lines.push(`question: ${what} ${choices.join(' or ')}`);
  return lines.join('\n');
}

const figure = (value: number) => (Math.abs(value) >= 1000 ? value.toFixed(0) : value.toPrecision(4));
