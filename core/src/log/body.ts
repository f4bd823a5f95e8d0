import Papa from 'papaparse';
import { initParser } from 'udsv';
import { isBlank, numberFormatOf, parseNumber, switchValue, type NumberFormat } from './cells.js';
import { cellKind, splitLine, type Layout } from './layout.js';
import { readPlainRows } from './plain-rows.js';
import { bothReadings, parseTimeS, timeFormatOf, type TimeFormat } from './time-cells.js';

/** How the cells of a column are read. */
type CellFormat =
  | ({ kind: 'number' } & NumberFormat)
  /** Words for on and off, as 1 and 0. */
  | ({ kind: 'switch' } & NumberFormat)
  | { kind: 'clock'; time: TimeFormat; example: string; readings: [string, string] | null }
  | { kind: 'text' };

/** A cell of words where a number or a time ought to stand: read as a gap. */
interface OddCell {
  row: number;
  column: number;
  text: string;
}

/** The values of a table, a column each: numbers as written, times as seconds, NaN for gaps; text columns are empty. */
export interface BodyColumns {
  formats: CellFormat[];
  values: Float64Array[];
  rowCount: number;
  /** Lines inside the table that hold a remark instead of values. */
  remarks: string[];
  /** Cells that say in words that there is no value ("NaN", "#DIV/0!"), by column. */
  gaps: number[];
  /** The first cells that are neither a value nor a known gap, and how many there are. */
  odd: OddCell[];
  oddCount: number;
  /** Rows with more cells than the header has columns: the first, and how many. */
  longRow: number | null;
  longCount: number;
}

const LINE_FEED = 0x0a;
const CHUNK_CHARACTERS = 1 << 18;
const SAMPLE_CHARACTERS = 60_000;
const MOST_ODD = 20;
/** A column may keep room for so many times its rows. */
const MOST_SPARE = 1.2;

/**
 * Reads the rows of a table into columns. Regular rows go through the fast splitter; a file with any irregular row is read again by
 * the forgiving one, which knows every row's number. A cell that holds no value is a gap, and counted.
 * @param orders in which order dates of numbers stand, by column, where somebody has said it.
 */
export function readBody(layout: Layout, orders: readonly (TimeFormat['order'] | null)[] = []): BodyColumns {
  const formats = cellFormats(layout, orders);
  return readRegular(layout, formats) ?? readForgiving(layout, formats);
}

/** Bytes that rows stand in, from one to another. */
export interface RowBytes {
  bytes: Uint8Array;
  from: number;
  to: number;
}

/**
 * Reads the rows of a table from its bytes, of which the layout knows an excerpt. Null where a row is not as regular as those seen, is quoted or holds
 * anything but ASCII: then the whole of it has to be looked at.
 */
export function readBodyOfBytes(layout: Layout, rows: RowBytes, orders: readonly (TimeFormat['order'] | null)[] = []): BodyColumns | null {
  if (layout.quoted) return null;
  const columns = new Columns(cellFormats(layout, orders), rowsIn(rows));
  return readPlain(layout, rows, true, columns) ? columns.finished() : null;
}

function cellFormats(layout: Layout, orders: readonly (TimeFormat['order'] | null)[]): CellFormat[] {
  const { text, bodyStart, bodyEnd } = layout;
  const middle = Math.max(bodyStart, Math.floor((bodyStart + bodyEnd) / 2) - SAMPLE_CHARACTERS / 2);
  const starts =
    bodyEnd - bodyStart > 3 * SAMPLE_CHARACTERS ? [bodyStart, text.indexOf(layout.lineEnd, middle) + layout.lineEnd.length] : [bodyStart];
  const rows = starts.flatMap((start) =>
    text
      .slice(start, Math.min(bodyEnd, start + SAMPLE_CHARACTERS))
      .split(layout.lineEnd)
      .slice(0, start + SAMPLE_CHARACTERS < bodyEnd ? -1 : undefined)
      .map((line) => splitLine(line, layout.delimiter)),
  );
  return layout.names.map((_, column) => {
    const cells: string[] = [];
    const times: string[] = [];
    const counts = { blank: 0, number: 0, clock: 0, text: 0 };
    let [words, wordsForNone] = [0, 0];
    for (const row of rows) {
      const cell = row[column] ?? '';
      if (cell.trim() === '') continue;
      const isWord = switchValue(cell) !== null;
      if (isWord) words += 1;
      if (isBlank(cell)) {
        if (isWord) wordsForNone += 1;
        continue;
      }
      const kind = cellKind(cell);
      cells.push(cell);
      counts[kind] += 1;
      if (kind === 'clock') times.push(cell);
    }
    if (words > 0 && words - wordsForNone === cells.length)
      return { kind: 'switch', ...numberFormatOf([], layout.decimalComma ? ',' : '.') };
    if (counts.text > counts.number + counts.clock) return { kind: 'text' };
    if (counts.clock > counts.number) {
      const time = timeFormatOf(times, orders[column] ?? null);
      if (time) return { kind: 'clock', time, example: times[0]!.trim(), readings: time.ambiguous ? bothReadings(times[0]!) : null };
    }
    return { kind: 'number', ...numberFormatOf(cells, layout.decimalComma ? ',' : '.') };
  });
}

class Columns {
  readonly formats: CellFormat[];
  values: Float64Array[];
  rowCount = 0;
  readonly remarks: string[] = [];
  readonly gaps: number[];
  readonly odd: OddCell[] = [];
  oddCount = 0;
  longRow: number | null = null;
  longCount = 0;
  #capacity: number;

  constructor(formats: CellFormat[], capacity: number) {
    this.formats = formats;
    this.#capacity = capacity;
    this.gaps = formats.map(() => 0);
    this.values = formats.map(({ kind }) => new Float64Array(kind === 'text' ? 0 : capacity));
  }

  grow(): void {
    if (this.rowCount < this.#capacity) return;
    this.#capacity = Math.ceil(this.#capacity * 1.5) + 16;
    this.values = this.values.map((old, column) => {
      if (this.formats[column]!.kind === 'text') return old;
      const larger = new Float64Array(this.#capacity);
      larger.set(old);
      return larger;
    });
  }

  /** Puts what a cell says into the row under way; false where it is neither a value nor a word for none. */
  put(column: number, cell: string): boolean {
    const format = this.formats[column]!;
    if (format.kind === 'text') return true;
    const value = valueOf(cell, format);
    if (value !== value && cell.trim() !== '') {
      if (!isBlank(cell)) return false;
      this.gaps[column]! += 1;
    }
    this.values[column]![this.rowCount] = value;
    return true;
  }

  finished(): BodyColumns {
    const { formats, rowCount, remarks, gaps, odd, oddCount, longRow, longCount } = this;
    // Where little was guessed too much the columns stay where they are: a copy of a long log's would be as large as its file.
    const isClose = this.#capacity <= MOST_SPARE * rowCount;
    const values = this.values.map((column) => (isClose ? column.subarray(0, rowCount) : column.slice(0, rowCount)));
    formats.forEach(({ kind }, column) => {
      if (kind === 'switch') gaps[column]! += settleSwitch(values[column]!);
    });
    return { formats, values, rowCount, remarks, gaps, odd, oddCount, longRow, longCount };
  }
}

function expectedRows({ text, bodyStart, bodyEnd, lineEnd }: Layout): number {
  const sample = text.slice(bodyStart, Math.min(bodyEnd, bodyStart + SAMPLE_CHARACTERS));
  const lines = sample.split(lineEnd).length;
  return Math.ceil((1.1 * lines * (bodyEnd - bodyStart)) / Math.max(1, sample.length)) + 16;
}

/** Rows that end in a line feed, and one that may not. */
function rowsIn({ bytes, from, to }: RowBytes): number {
  let rows = 1;
  for (let at = bytes.indexOf(LINE_FEED, from); at >= 0 && at < to; at = bytes.indexOf(LINE_FEED, at + 1)) rows += 1;
  return rows;
}

/** Null where a row does not have exactly the header's columns, or a cell holds neither a value nor a word for none. */
function readRegular(layout: Layout, formats: CellFormat[]): BodyColumns | null {
  const columns = new Columns(formats, expectedRows(layout));
  const isRegular = layout.quoted ? readQuoted(layout, columns) : readPlain(layout, bytesOf(layout), false, columns);
  return isRegular ? columns.finished() : null;
}

function bytesOf({ text, bodyStart, bodyEnd }: Layout): RowBytes {
  const bytes = new TextEncoder().encode(text.slice(bodyStart, bodyEnd));
  return { bytes, from: 0, to: bytes.length };
}

function readPlain({ delimiter, lineEnd }: Layout, { bytes, from, to }: RowBytes, asciiOnly: boolean, columns: Columns): boolean {
  const rows = readPlainRows({
    bytes,
    from,
    to,
    delimiter,
    lineEnd,
    asciiOnly,
    isNumber: columns.formats.map((format) => format.kind === 'number' && format.thousands === ''),
    valuesOf(row) {
      columns.rowCount = row;
      columns.grow();
      return columns.values;
    },
    onCell: (column, cell) => columns.put(column, cell),
  });
  if (rows !== null) columns.rowCount = rows;
  return rows !== null;
}

/** Rows in which cells may be quoted. */
function readQuoted({ text, bodyStart, bodyEnd, delimiter, lineEnd, names }: Layout, columns: Columns): boolean {
  const repl = { empty: null, null: undefined, NaN: undefined };
  const parser = initParser({
    skip: 0,
    col: delimiter,
    row: lineEnd,
    encl: '"',
    esc: '"',
    trim: false,
    cols: names.map((name) => ({ name, type: 's', repl })),
  } as unknown as Parameters<typeof initParser>[0]);
  let regular = true;
  const onRow = (row: string[]): boolean => {
    columns.grow();
    for (let column = 0; column < names.length; column += 1) {
      const cell = row[column]!;
      // A row that is too short or too long runs on into the next one.
      if (cell.includes(lineEnd) || !columns.put(column, cell)) return (regular = false);
    }
    columns.rowCount += 1;
    return true;
  };
  for (let at = bodyStart; regular && at < bodyEnd; at += CHUNK_CHARACTERS) {
    parser.chunk(text.slice(at, Math.min(bodyEnd, at + CHUNK_CHARACTERS)), parser.stringArrs, onRow);
  }
  if (regular) parser.end();
  return regular;
}

function valueOf(cell: string, format: CellFormat): number {
  if (format.kind === 'clock') return parseTimeS(cell, format.time);
  if (format.kind === 'text' || cell.trim() === '') return Number.NaN;
  return (format.kind === 'switch' ? switchValue(cell) : null) ?? parseNumber(cell, format);
}

/** What was off is 0 where something was on as well; in a column of numbers, or where nothing ever was on, it is a gap. How many gaps that makes. */
function settleSwitch(values: Float64Array): number {
  const isSwitch = values.includes(1) && values.every((value) => value === 1 || value === 0 || value !== value);
  let gaps = 0;
  for (let row = 0; row < values.length; row += 1) {
    if (!Object.is(values[row], -0)) continue;
    values[row] = isSwitch ? 0 : Number.NaN;
    if (!isSwitch) gaps += 1;
  }
  return gaps;
}

/** A remark is told so long, letters: a broken line is no text to be read. */
const LONGEST_REMARK = 200;

function readForgiving(layout: Layout, formats: CellFormat[]): BodyColumns {
  const columns = new Columns(formats, expectedRows(layout));
  const body = layout.text.slice(layout.bodyStart, layout.bodyEnd);
  const rows = Papa.parse<string[]>(body, { delimiter: layout.delimiter, newline: layout.lineEnd as '\n' }).data;
  rows.forEach((row, index) => {
    const filled = row.filter((cell) => cell.trim() !== '');
    if (filled.length === 0) return;
    if (row.length < layout.names.length && filled.length <= 2 && filled.every((cell) => cellKind(cell) === 'text')) {
      columns.remarks.push(filled.join(' ').slice(0, LONGEST_REMARK));
      return;
    }
    addRow(columns, row, layout.firstDataRow + index);
  });
  return columns.finished();
}

function addRow(columns: Columns, row: string[], number: number): void {
  const width = columns.formats.length;
  if (row.slice(width).some((cell) => cell.trim() !== '')) {
    columns.longRow ??= number;
    columns.longCount += 1;
  }
  columns.grow();
  for (let column = 0; column < width; column += 1) {
    const format = columns.formats[column]!;
    if (format.kind === 'text') continue;
    const cell = row[column] ?? '';
    const blank = isBlank(cell) && !(format.kind === 'switch' && switchValue(cell) !== null);
    const value = blank ? Number.NaN : valueOf(cell, format);
    if (blank && cell.trim() !== '') columns.gaps[column]! += 1;
    if (!blank && value !== value) {
      columns.oddCount += 1;
      if (columns.odd.length < MOST_ODD) columns.odd.push({ row: number, column, text: cell.trim().slice(0, 40) });
    }
    columns.values[column]![columns.rowCount] = value;
  }
  columns.rowCount += 1;
}
