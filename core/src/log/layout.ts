import Papa from 'papaparse';
import { GezeitError } from '../errors.js';
import { isBlank, isPlainNumber, looksLikeNumber, switchValue, type CellKind } from './cells.js';
import { looksLikeTime } from './time-cells.js';
import { looksLikeUnits } from '../channels/candidates.js';
import { unitsOutOfCells } from './cell-units.js';

/** How a text table is built. Rows count from 1, as an editor shows them. */
export interface Layout {
  delimiter: string;
  /** The columns were parted by runs of blanks, which are tabs now. */
  partedByBlanks: boolean;
  /** The text that the rows stand in: as read, or with tabs for its blanks. */
  text: string;
  decimalComma: boolean;
  lineEnd: string;
  quoted: boolean;
  names: string[];
  /** Texts of the units row, empty where there is none. */
  units: string[];
  headerRow: number;
  unitsRow: number | null;
  firstDataRow: number;
  preamble: string[];
  trailing: string[];
  /** The last row stops half-way and is left out: its number. */
  cutRow: number | null;
  /** Character range of the data rows in the text. */
  bodyStart: number;
  bodyEnd: number;
}

const DELIMITERS = [';', '\t', '|', ',', '^', '~'];
const SAMPLE_LINES = 200;
const SAMPLE_CHARACTERS = 400_000;
const MOST_TRAILING_LINES = 50;
/** A header may stand behind the sign of a remark. */
const REMARK_SIGN = /^\s*(?:#+|\/\/|;)\s*(?=[\p{L}"'[(])/u;

/**
 * Finds delimiter, decimal mark, header, units row, preamble and trailing remarks of a text table.
 * @throws GezeitError `not-a-table`, `no-header`.
 */
export function findLayout(source: string, file: string): Layout {
  try {
    return layoutOf(withOneLineEnd(source), file);
  } catch (error) {
    const bare = error instanceof GezeitError && error.code === 'not-a-table' ? unitsOutOfCells(withOneLineEnd(source)) : null;
    if (!bare) throw error;
    const layout = layoutOf(bare.text, file);
    return layout.unitsRow === null && bare.units.length === layout.names.length ? { ...layout, units: bare.units } : layout;
  }
}

/** Lines that end in two ways, as files do that were put together, end in one. */
function withOneLineEnd(text: string): string {
  const head = text.slice(0, SAMPLE_CHARACTERS);
  return head.includes('\r\n') && /(^|[^\r])\n/.test(head) ? text.replaceAll('\r\n', '\n') : text;
}

/** @throws GezeitError `not-a-table`, `no-header`. */
function layoutOf(source: string, file: string): Layout {
  const tabbed = blanksAsTabs(source);
  const text = tabbed ?? source;
  const lineEnd = text.includes('\r\n') ? '\r\n' : text.includes('\n') ? '\n' : '\r';
  const sample = text.slice(0, SAMPLE_CHARACTERS);
  const lines = sample.split(lineEnd).slice(0, SAMPLE_LINES);
  const { delimiter, rows, firstData } = chooseDelimiter(lines, file);
  const width = rows[firstData]!.length;
  const header = headerRows(rows, firstData, width);
  if (!header) {
    const next = 'Put a row with the name of each column above the values.';
    throw new GezeitError('no-header', 'The values stand without a header row.', next, { file, row: firstData + 1 });
  }
  const decimalComma = delimiter !== ',' && usesDecimalComma(rows.slice(firstData));
  const bodyStart = offsetOfLine(lines, firstData, lineEnd);
  const { bodyEnd, trailing, cutRow } = trimEnd(text, bodyStart, lineEnd, delimiter, width);
  return {
    delimiter,
    partedByBlanks: tabbed !== null,
    text,
    decimalComma,
    lineEnd,
    quoted: text.includes('"'),
    names: header.names.map((name, i) => (i === 0 ? name.replace(REMARK_SIGN, '') : name)),
    units: header.units,
    headerRow: header.nameRow + 1,
    unitsRow: header.unitsRow === null ? null : header.unitsRow + 1,
    firstDataRow: firstData + 1,
    preamble: lines.slice(0, header.nameRow).filter((line) => line.trim() !== ''),
    trailing,
    cutRow,
    bodyStart,
    bodyEnd,
  };
}

/** What kind of cell a text is. */
export function cellKind(cell: string): CellKind {
  if (isPlainNumber(cell)) return 'number';
  const text = cell.trim();
  if (isBlank(text)) return 'blank';
  if (looksLikeNumber(text)) return 'number';
  return looksLikeTime(text) ? 'clock' : 'text';
}

/** What three digits behind a mark weigh that may part thousands, beside digits that cannot. */
const MAYBE_THOUSANDS = 0.1;

/** Whether a comma is the decimal mark: more cells say so than say that it parts thousands. */
function usesDecimalComma(rows: string[][]): boolean {
  let [comma, maybeComma, point, maybePoint, ungrouped] = [0, 0, 0, 0, 0];
  for (const row of rows) {
    for (const cell of row) {
      const text = cell.trim();
      if (/^[+-]?[1-9]\d{0,2},\d{3}$/.test(text)) maybeComma += 1;
      else if (/^[+-]?\d*,\d+$/.test(text)) comma += 1;
      else if (/^[+-]?[1-9]\d{0,2}\.\d{3}$/.test(text)) maybePoint += 1;
      else if (/^[+-]?\d*\.\d+$/.test(text)) point += 1;
      else if (/^[+-]?\d{1,3}(\.\d{3})+,\d+$/.test(text)) comma += 3;
      else if (/^[+-]?\d{1,3}(,\d{3})+\.\d+$/.test(text)) point += 3;
      else if (/^[+-]?[1-9]\d{3,}$/.test(text)) ungrouped += 1;
    }
  }
  // Commas that can all part thousands do so beside decimals with a point, and where no thousands stand without them.
  if (comma === 0 && (point > 0 || ungrouped === 0)) return false;
  const commas = comma + MAYBE_THOUSANDS * maybeComma;
  // Files of both marks are met (a clock of points beside readings of commas): the comma counts where it is not thousands.
  return commas > 0 && commas >= 0.05 * (point + MAYBE_THOUSANDS * maybePoint);
}

/** A table whose columns are parted by blanks alone, with tabs for them; null where another mark parts them. */
function blanksAsTabs(text: string): string | null {
  const lineEnd = text.includes('\r\n') ? '\r\n' : text.includes('\n') ? '\n' : '\r';
  const head = text.slice(0, SAMPLE_CHARACTERS).split(lineEnd).slice(0, SAMPLE_LINES);
  const isValues = (line: string) => {
    const cells = line.trim().split(/\s+/);
    return (
      cells.length >= 2 &&
      !/[;\t|]/.test(line.trim()) &&
      cells.every((cell) => looksLikeNumber(cell) || looksLikeTime(cell) || isBlank(cell))
    );
  };
  const values = head.flatMap((line, i) => (isValues(line) ? [i] : []));
  const filled = head.filter((line) => line.trim() !== '').length;
  if (values.length < 2 || values.length < 0.5 * filled) return null;
  const width = head[values[0]!]!.trim().split(/\s+/).length;
  if (values.some((i) => /,\s/.test(head[i]!))) return null;
  const asTabs = (line: string) => {
    const plain = line.trim();
    if (isValues(line)) return plain.replace(/\s+/g, '\t');
    const wide = plain.split(/\s{2,}/);
    const single = plain.split(/\s+/);
    const bracketed = plain.split(/(?<=[\])}])\s+/);
    return ([wide, single, bracketed].find((cells) => cells.length === width) ?? wide).join('\t');
  };
  return text.split(lineEnd).map(asTabs).join(lineEnd);
}

/** Cells of one line. */
export function splitLine(line: string, delimiter: string): string[] {
  return line.includes('"') ? (Papa.parse<string[]>(line, { delimiter }).data[0] ?? ['']) : line.split(delimiter);
}

function isDataRow(row: string[]): boolean {
  if (row.length < 2) return false;
  let [known, values] = [0, 0];
  for (const cell of row) {
    // Words for on and off speak neither for values nor for names.
    const kind = switchValue(cell) === null ? cellKind(cell) : 'blank';
    if (kind !== 'blank') known += 1;
    if (kind === 'number' || kind === 'clock') values += 1;
  }
  return values >= 1 && values >= 0.6 * known;
}

function chooseDelimiter(lines: string[], file: string): { delimiter: string; rows: string[][]; firstData: number } {
  let best: { delimiter: string; rows: string[][]; firstData: number; score: number } | null = null;
  for (const delimiter of DELIMITERS) {
    if (!lines.some((line) => line.includes(delimiter))) continue;
    const rows = lines.map((line) => splitLine(line, delimiter));
    const data = rows.flatMap((row, index) => (isDataRow(row) ? [index] : []));
    const firstData = firstDataIndex(rows, data);
    if (firstData < 0) continue;
    const width = rows[firstData]!.length;
    const alike = data.filter((index) => index >= firstData && rows[index]!.length === width).length;
    const score = alike * Math.log(1 + width);
    if (!best || score > best.score) best = { delimiter, rows, firstData, score };
  }
  if (best) return best;
  const next = 'Export the log as a table with one row a sample, columns separated by comma, semicolon or tab.';
  throw new GezeitError('not-a-table', 'No table of values was found in this text.', next, { file });
}

/** First row of values (of those at `data`) under a header of its width; where no header fits, the first that the next row agrees with in width. */
function firstDataIndex(rows: string[][], data: number[]): number {
  const headed = data.find((index) => headerRows(rows, index, rows[index]!.length) !== null);
  if (headed !== undefined) return headed;
  return data.find((index) => rows[index + 1]?.length === rows[index]!.length) ?? -1;
}

interface Header {
  names: string[];
  nameRow: number;
  units: string[];
  unitsRow: number | null;
}

function headerRows(rows: string[][], firstData: number, width: number): Header | null {
  let index = firstData - 1;
  while (index >= 0 && rows[index]!.every((cell) => cell.trim() === '')) index -= 1;
  if (index < 0) return null;
  const fits = (row: string[] | undefined) =>
    row !== undefined && Math.abs(row.length - width) <= 1 && row.some((cell) => cellKind(cell) === 'text');
  const last = rows[index]!;
  const above = rows[index - 1];
  if (looksLikeUnits(last) && fits(above)) return { names: above!, nameRow: index - 1, units: last, unitsRow: index };
  return fits(last) ? { names: last, nameRow: index, units: [], unitsRow: null } : null;
}

function offsetOfLine(lines: string[], index: number, lineEnd: string): number {
  let offset = 0;
  for (let i = 0; i < index; i += 1) offset += lines[i]!.length + lineEnd.length;
  return offset;
}

/** Cuts remarks off the end, and a last row that stops half-way. */
function trimEnd(text: string, bodyStart: number, lineEnd: string, delimiter: string, width: number) {
  const trailing: string[] = [];
  let bodyEnd = text.length;
  let cutRow: number | null = null;
  for (let count = 0; count <= MOST_TRAILING_LINES && bodyEnd > bodyStart; count += 1) {
    const contentEnd = text.startsWith(lineEnd, bodyEnd - lineEnd.length) ? bodyEnd - lineEnd.length : bodyEnd;
    const lineStart = Math.max(bodyStart, text.lastIndexOf(lineEnd, contentEnd - 1) + lineEnd.length);
    const line = text.slice(lineStart, contentEnd).replaceAll('\u001a', '');
    const cells = splitLine(line, delimiter);
    if (cells.length === width && isDataRow(cells)) break;
    if (contentEnd === text.length && isUnfinished(cells, width)) cutRow = text.slice(0, lineStart).split(lineEnd).length;
    else if (line.trim() !== '') trailing.unshift(line);
    bodyEnd = lineStart;
  }
  return { bodyEnd, trailing, cutRow };
}

function isUnfinished(cells: string[], width: number): boolean {
  const kinds = cells.slice(0, -1).map(cellKind);
  const last = cellKind(cells.at(-1)!);
  return (
    cells.length < width &&
    kinds.every((kind) => kind !== 'text') &&
    (last !== 'text' || cells.length > 1) &&
    (kinds.length > 0 || last === 'number')
  );
}
