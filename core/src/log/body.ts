import Papa from 'papaparse';
import { initParser } from 'udsv';
import { GezeitError } from '../errors.js';
import { cellKind, isBlank, parseClockS, parseNumber } from './cells.js';
import { splitLine, type Layout } from './layout.js';

export type ColumnKind = 'number' | 'clock' | 'text';

/** The values of a table, a column each: numbers as written, clocks as seconds, NaN for blanks; text columns are empty. */
export interface BodyColumns {
  kinds: ColumnKind[];
  values: Float64Array[];
  rowCount: number;
  /** Lines inside the table that hold a remark instead of values. */
  remarks: string[];
}

const CHUNK_CHARACTERS = 1 << 18;
const SAMPLE_CHARACTERS = 60_000;

/**
 * Reads the rows of a table into columns. Regular rows go through the fast splitter; a file with any irregular row is read again by
 * the forgiving one, which knows every row's number.
 * @throws GezeitError `cell-not-a-number`, `row-too-long`.
 */
export function readBody(text: string, layout: Layout, file: string): BodyColumns {
  const kinds = columnKinds(text, layout);
  return readRegular(text, layout, kinds) ?? readForgiving(text, layout, kinds, file);
}

function columnKinds(text: string, layout: Layout): ColumnKind[] {
  const sample = text.slice(layout.bodyStart, Math.min(layout.bodyEnd, layout.bodyStart + SAMPLE_CHARACTERS));
  const rows = sample.split(layout.lineEnd).map((line) => splitLine(line, layout.delimiter));
  return layout.names.map((_, column) => {
    const counts = { blank: 0, number: 0, clock: 0, text: 0 };
    for (const row of rows) counts[cellKind(row[column] ?? '')] += 1;
    if (counts.text > counts.number + counts.clock) return 'text';
    return counts.clock > counts.number ? 'clock' : 'number';
  });
}

class Columns {
  readonly kinds: ColumnKind[];
  values: Float64Array[];
  rowCount = 0;
  #capacity: number;

  constructor(kinds: ColumnKind[], capacity: number) {
    this.kinds = kinds;
    this.#capacity = capacity;
    this.values = kinds.map((kind) => new Float64Array(kind === 'text' ? 0 : capacity));
  }

  grow(): void {
    if (this.rowCount < this.#capacity) return;
    this.#capacity = Math.ceil(this.#capacity * 1.5) + 16;
    this.values = this.values.map((old, column) => {
      if (this.kinds[column] === 'text') return old;
      const larger = new Float64Array(this.#capacity);
      larger.set(old);
      return larger;
    });
  }

  finished(remarks: string[]): BodyColumns {
    const values = this.values.map((column, index) => (this.kinds[index] === 'text' ? column : column.slice(0, this.rowCount)));
    return { kinds: this.kinds, values, rowCount: this.rowCount, remarks };
  }
}

function expectedRows(text: string, { bodyStart, bodyEnd, lineEnd }: Layout): number {
  const sample = text.slice(bodyStart, Math.min(bodyEnd, bodyStart + SAMPLE_CHARACTERS));
  const lines = sample.split(lineEnd).length;
  return Math.ceil((1.1 * lines * (bodyEnd - bodyStart)) / Math.max(1, sample.length)) + 16;
}

/** Null where a row does not have exactly the header's columns, or a cell is no number. */
function readRegular(text: string, layout: Layout, kinds: ColumnKind[]): BodyColumns | null {
  const { delimiter, lineEnd, decimalComma, quoted, names } = layout;
  const columns = new Columns(kinds, expectedRows(text, layout));
  const width = names.length;
  const repl = { empty: null, null: undefined, NaN: undefined };
  const parser = initParser({
    skip: 0,
    col: delimiter,
    row: lineEnd,
    encl: quoted ? '"' : '',
    esc: quoted ? '"' : '',
    trim: false,
    cols: names.map((name) => ({ name, type: 's', repl })),
  } as unknown as Parameters<typeof initParser>[0]);
  let regular = true;
  const onRow = (row: string[]): boolean => {
    columns.grow();
    const { values, rowCount } = columns;
    for (let column = 0; column < width; column += 1) {
      const cell = row[column]!;
      const kind = kinds[column];
      if (kind === 'number') {
        let value = +cell;
        // Nearly every cell is a plain number other than 0; an empty one reads as 0 and is told apart here.
        if (value === 0 || value !== value) {
          if (cell === '') value = Number.NaN;
          else if (value !== value && !isBlank(cell)) {
            value = parseNumber(cell, decimalComma);
            if (value !== value) return (regular = false);
          } else if (value === 0 && cell.trim() === '') value = Number.NaN;
        }
        values[column]![rowCount] = value;
      } else if (kind === 'clock') {
        const value = parseClockS(cell);
        if (value !== value && !isBlank(cell)) return (regular = false);
        values[column]![rowCount] = value;
      } else if (cell.includes(lineEnd) || (!quoted && cell.includes(delimiter))) {
        return (regular = false);
      }
    }
    columns.rowCount += 1;
    return true;
  };
  for (let at = layout.bodyStart; regular && at < layout.bodyEnd; at += CHUNK_CHARACTERS) {
    parser.chunk(text.slice(at, Math.min(layout.bodyEnd, at + CHUNK_CHARACTERS)), parser.stringArrs, onRow);
  }
  if (regular) parser.end();
  return regular ? columns.finished([]) : null;
}

function readForgiving(text: string, layout: Layout, kinds: ColumnKind[], file: string): BodyColumns {
  const columns = new Columns(kinds, expectedRows(text, layout));
  const body = text.slice(layout.bodyStart, layout.bodyEnd);
  const rows = Papa.parse<string[]>(body, { delimiter: layout.delimiter, newline: layout.lineEnd as '\n' }).data;
  const remarks: string[] = [];
  rows.forEach((row, index) => {
    const filled = row.filter((cell) => cell.trim() !== '');
    if (filled.length === 0) return;
    if (row.length < layout.names.length && filled.length <= 2 && filled.every((cell) => cellKind(cell) === 'text')) {
      remarks.push(filled.join(' '));
      return;
    }
    addRow(columns, row, layout, { file, row: layout.firstDataRow + index });
  });
  return columns.finished(remarks);
}

function addRow(columns: Columns, row: string[], layout: Layout, place: { file: string; row: number }): void {
  const width = layout.names.length;
  if (row.slice(width).some((cell) => cell.trim() !== '')) {
    const next = `Remove the extra cells or name their columns (separator "${layout.delimiter === '\t' ? 'tab' : layout.delimiter}").`;
    throw new GezeitError('row-too-long', `This row has ${row.length} cells, the header ${width}.`, next, place);
  }
  columns.grow();
  for (let column = 0; column < width; column += 1) {
    const kind = columns.kinds[column];
    if (kind === 'text') continue;
    const cell = row[column] ?? '';
    const value = isBlank(cell) ? Number.NaN : kind === 'clock' ? parseClockS(cell) : parseNumber(cell, layout.decimalComma);
    if (Number.isNaN(value) && !isBlank(cell)) {
      const what = kind === 'clock' ? 'a time' : 'a number';
      const message = `"${cell.trim().slice(0, 40)}" is not ${what}.`;
      const next = 'Correct the cell, or leave it empty where nothing was measured.';
      throw new GezeitError('cell-not-a-number', message, next, { ...place, column: layout.names[column]!.trim() });
    }
    columns.values[column]![columns.rowCount] = value;
  }
  columns.rowCount += 1;
}
