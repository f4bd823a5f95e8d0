import Papa from 'papaparse';
import { GezeitError } from '../errors.js';
import { decodeText } from '../text/decode.js';
import { numberText, typedNumber } from '../units/typed-number.js';
import { dimensionOf } from '../units/units.js';
import { unitFromText } from '../units/unit-spellings.js';
import type { BenchRow, ColumnField, TableField } from './fields.js';

const heading = (column: ColumnField) =>
  column.kind === 'number' && column.unit !== '–' ? `${column.label} [${column.unit}]` : column.label;
const plain = (text: string) =>
  text
    .replace(/\[[^\]]*\]|\([^)]*\)/g, '')
    .trim()
    .toLowerCase();

/** A text that a spreadsheet would take for a formula, marked as text; and without that mark. */
const asText = (text: string) => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);
const withoutMark = (text: string) => text.replace(/^'(?=[=+\-@\t\r])/, '');

/** A table as CSV: a column a field, units in brackets, choices by their words. */
export function writeTableCsv(table: TableField, rows: readonly BenchRow[]): string {
  if (table.csv) return table.csv.write(rows);
  const cells = rows.map((row) =>
    table.columns.map((column) => {
      const value = row[column.name] ?? null;
      if (value === null) return '';
      if (column.kind === 'number') return typeof value === 'number' ? numberText(value, column.unit, column.difference, 10) : '';
      return column.kind === 'choice' ? (column.choices[String(value)] ?? '') : asText(String(value));
    }),
  );
  return `${Papa.unparse([table.columns.map(heading), ...cells], { newline: '\n' })}\n`;
}

/**
 * Rows of a table from CSV: columns by their words, units from the heading's brackets or the cell, comma or point as decimal mark.
 * Columns that the table does not know are passed over; known ones may be missing where the field may be empty.
 * @throws GezeitError with row and column of what cannot be read; nothing of the file is taken then.
 */
export function readTableCsv(table: TableField, bytes: Uint8Array, file: string): BenchRow[] {
  if (table.csv) return table.csv.read(bytes, file);
  if (bytes.length === 0) throw new GezeitError('empty-file', 'The file is empty.', 'Choose another one.', { file });
  const { text } = decodeText(bytes, file);
  const rows = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy' }).data.map((row) => row.map((cell) => cell.trim()));
  const known = (row: string[]) => table.columns.filter((column) => row.some((cell) => plain(cell) === plain(column.label))).length;
  const header = rows.findIndex((row) => known(row) >= Math.min(2, table.columns.length));
  const needed = table.columns.map(heading).join(', ');
  if (header < 0) throw new GezeitError('no-table', `No row names the columns of “${table.label}”.`, `Name them so: ${needed}.`, { file });
  const places = table.columns.map((column) => rows[header]!.findIndex((cell) => plain(cell) === plain(column.label)));
  table.columns.forEach((column, i) => {
    const mayMiss =
      column.kind === 'choice' || ('optional' in column && column.optional) || ('value' in column && column.value !== undefined);
    if (places[i]! < 0 && !mayMiss)
      throw new GezeitError('column-missing', `The column “${column.label}” is missing.`, `Name the columns so: ${needed}.`, {
        file,
        row: header + 1,
      });
  });
  return rows.slice(header + 1).map((row, i) => {
    const place = (column: ColumnField) => ({ file, row: header + 2 + i, column: column.label });
    return Object.fromEntries(
      table.columns.map((column, j) => [
        column.name,
        readCell(column, places[j]! < 0 ? '' : (row[places[j]!] ?? ''), rows[header]![places[j]!] ?? '', place(column)),
      ]),
    );
  });
}

function readCell(
  column: ColumnField,
  cell: string,
  head: string,
  place: { file: string; row: number; column: string },
): number | string | null {
  if (column.kind === 'text') return cell === '' ? null : withoutMark(cell);
  if (column.kind === 'choice') {
    if (cell === '') return column.value;
    const found = Object.entries(column.choices).find(([key, words]) =>
      [key, words].some((name) => name.toLowerCase() === cell.toLowerCase()),
    );
    if (found) return found[0];
    throw new GezeitError(
      'unknown-choice',
      `“${cell}” is none of ${Object.values(column.choices).join(', ')}.`,
      'Correct the cell.',
      place,
    );
  }
  if (cell === '') {
    if (column.optional || column.value !== undefined) return null;
    throw new GezeitError('cell-empty', 'A number is missing.', 'Fill the cell.', place);
  }
  const stated = /[[(]([^\])]+)[\])]/.exec(head)?.[1];
  const unit = stated ? unitFromText(stated) : column.unit;
  if (stated && stated !== '%' && !unit)
    throw new GezeitError('unknown-unit', `“${stated}” is no unit that Gezeit reads.`, `Use ${column.unit}.`, place);
  if (unit && dimensionOf(unit) !== dimensionOf(column.unit) && stated !== '%')
    throw new GezeitError('unit-mismatch', `${unit} is another kind of quantity.`, `Use ${column.unit}.`, place);
  const read = typedNumber(
    stated === '%' && column.unit === '–' ? `${cell} %` : cell,
    stated === '%' || !unit ? column.unit : unit,
    column.difference,
  );
  if (!read.understood) throw new GezeitError('cell-not-a-number', read.problem, 'Correct the cell.', place);
  return read.value;
}
