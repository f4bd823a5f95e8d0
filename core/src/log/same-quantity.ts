import type { ChannelMapping, Quantity } from '@gezeit/contract';
import { wordsOf } from '../channels/name-evidence.js';
import { quantityWords } from '../channels/quantity-words.js';
import type { ColumnReport, LogColumn } from './log-table.js';

/** Words by which columns of one quantity are told to be banks of one engine: they differ in these only. */
const BANK_WORDS = new Set(['bank', 'b', 'left', 'right', 'l', 'r', 'links', 'rechts', 'no', 'nr', 'sensor']);
/** Quantities of which each bank carries a part; of others the banks' mean counts. */
const PARTS_OF_A_WHOLE: readonly Quantity[] = ['airMassFlow'];
/** Quantities that an engine has once a bank. */
const BANKED: readonly Quantity[] = ['airMassFlow', 'airMeterFrequency', 'lambda', 'shortTermTrim', 'longTermTrim', 'injectorTime'];

/**
 * Makes one column of each quantity: banks are put together (sum of parts, mean of others, or as `combine` says), of other rivals the first is
 * used. Every time it is said. Pressure drops differ by section.
 */
export function oneColumnEach(
  columns: LogColumn[],
  reports: ColumnReport[],
  notes: string[],
  channels: Readonly<Record<string, ChannelMapping>>,
): void {
  const groups = new Map<string, LogColumn[]>();
  for (const column of columns) {
    if (!column.quantity) continue;
    const key = `${column.quantity}/${column.section ?? ''}`;
    groups.set(key, [...(groups.get(key) ?? []), column]);
  }
  const sureOf = ({ name }: LogColumn) => (channels[name]?.use ? 2 : (reports.find((report) => report.name === name)?.sure ?? 0));
  for (const group of groups.values()) {
    if (group.length < 2) continue;
    const first = group.reduce((best, column) => (sureOf(column) > sureOf(best) ? column : best));
    const others = group.filter((column) => column !== first);
    const quantity = first.quantity!;
    const all = [first, ...others];
    const said = all.map(({ name }) => channels[name]?.combine).find((entry) => entry != null) ?? null;
    const asBanks = BANKED.includes(quantity) && all.every(({ name }) => stem(name) === stem(first.name));
    const how = said ?? (asBanks ? (PARTS_OF_A_WHOLE.includes(quantity) ? 'sum' : 'mean') : 'first');
    if (how !== 'first') {
      const originals = all.map((column) => ({ ...column }));
      first.values = first.values.map((_, i) => combined(originals, i) / (how === 'mean' ? all.length : 1));
      notes.push(
        `${all.map(({ name }) => `"${name}"`).join(' and ')} are taken as banks of one engine: their ${how} is used as ${quantityWords(quantity)}.`,
      );
    } else for (const { name } of others) notes.push(`"${name}" also looks like ${quantityWords(quantity)}: "${first.name}" is used.`);
    for (const column of others) {
      const report = reports.find(({ name }) => name === column.name);
      if (report) {
        report.used = how !== 'first';
        report.reasons = [
          ...report.reasons,
          how === 'first' ? { code: 'other-used', other: first.name } : { code: 'combined', how, with: first.name },
        ];
      }
      column.quantity = null;
    }
  }
}

/** The name without what tells banks apart. */
const stem = (name: string) =>
  wordsOf(name)
    .filter((word) => !/^\d+$/.test(word) && !BANK_WORDS.has(word))
    .join(' ');

/** The sum of columns in a row of the first one; the others may be sampled in rows of their own. NaN where the first is blank. */
function combined([first, ...others]: readonly LogColumn[], row: number): number {
  return others.reduce((sum, { values }) => sum + betweenRows(values, row), first!.values[row]!);
}

/** A column's value at a row, straight between the rows where it was sampled. */
function betweenRows(values: Float64Array, row: number): number {
  let [before, after] = [row, row];
  while (before > 0 && Number.isNaN(values[before]!)) before -= 1;
  while (after < values.length - 1 && Number.isNaN(values[after]!)) after += 1;
  const [a, b] = [values[before]!, values[after]!];
  if (Number.isNaN(a) || before === after) return b;
  return Number.isNaN(b) ? a : a + ((b - a) * (row - before)) / (after - before);
}
