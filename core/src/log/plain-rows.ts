const [BLANK, PLUS, COMMA, MINUS, POINT, NOUGHT, NINE] = [0x20, 0x2b, 0x2c, 0x2d, 0x2e, 0x30, 0x39];
const [LINE_FEED, CARRIAGE_RETURN, LAST_ASCII] = [0x0a, 0x0d, 0x7f];
/** A decimal number of so many digits over a power of ten is read exactly: both are whole numbers that a double holds (Clinger 1990). */
const MOST_DIGITS = 15;
const POWERS_OF_TEN = Array.from({ length: MOST_DIGITS + 1 }, (_, i) => 10 ** i);

/** Where the rows stand, and what to do with them. */
export interface PlainRows {
  /** A text whose marks, digits and line ends are one byte each: UTF-8, or an encoding of one byte a letter. */
  bytes: Uint8Array;
  from: number;
  to: number;
  delimiter: string;
  lineEnd: string;
  /** Which columns hold numbers that are written without anything between their thousands. */
  isNumber: readonly boolean[];
  /** Nothing but ASCII may stand in the rows: they are given up where something else does. */
  asciiOnly: boolean;
  /** Where the plain numbers of a row go: an array a column, long enough for it. */
  valuesOf(row: number): readonly Float64Array[];
  /** Any other cell; false where the table is not as it should be. */
  onCell(column: number, cell: string): boolean;
}

/**
 * Walks through the rows of a table that quotes nothing, and reads its numbers from the bytes as they stand, without a text for each cell, nor one for
 * all: of a log of 100 MB nearly every cell is one. Null where a row has another number of cells than there are columns, or a cell was refused; else the
 * count of rows.
 */
export function readPlainRows({ bytes, from, to, delimiter, lineEnd, isNumber, asciiOnly, valuesOf, onCell }: PlainRows): number | null {
  const mark = delimiter.charCodeAt(0);
  const width = isNumber.length;
  const isPair = lineEnd === '\r\n';
  const end = isPair || lineEnd === '\r' ? CARRIAGE_RETURN : LINE_FEED;
  let at = from;
  let row = 0;
  while (at < to) {
    const values = valuesOf(row);
    for (let column = 0; column < width; column += 1) {
      const start = at;
      let letter = at < to ? bytes[at]! : end;
      let isPlain = false;
      if (isNumber[column]) {
        while (letter === BLANK && mark !== BLANK) letter = ++at < to ? bytes[at]! : end;
        const isNegative = letter === MINUS;
        if (isNegative || letter === PLUS) letter = ++at < to ? bytes[at]! : end;
        let whole = 0;
        let digits = 0;
        let pointAfter = -1;
        for (;;) {
          if (letter >= NOUGHT && letter <= NINE) {
            whole = 10 * whole + (letter - NOUGHT);
            digits += 1;
          } else if (pointAfter < 0 && letter !== mark && (letter === POINT || letter === COMMA)) pointAfter = digits;
          else break;
          letter = ++at < to ? bytes[at]! : end;
        }
        if ((letter === mark || letter === end) && digits > 0 && digits <= MOST_DIGITS) {
          values[column]![row] = (isNegative ? -whole : whole) / (pointAfter < 0 ? 1 : POWERS_OF_TEN[digits - pointAfter]!);
          isPlain = true;
        }
      }
      if (!isPlain) {
        while (letter !== mark && letter !== end) letter = ++at < to ? bytes[at]! : end;
        const cell = cellText(bytes, start, at);
        if (cell === null && asciiOnly) return null;
        if (!onCell(column, cell ?? new TextDecoder().decode(bytes.subarray(start, at)))) return null;
      }
      // The last cell ends the row, and no other does.
      if ((letter === mark) === (column === width - 1)) return null;
      at += 1;
    }
    if (isPair && at < to && bytes[at] !== LINE_FEED) return null;
    if (isPair) at += 1;
    row += 1;
  }
  return row;
}

/** A cell of ASCII as a text, which is far quicker so than through a decoder; null where it holds anything else. */
function cellText(bytes: Uint8Array, from: number, to: number): string | null {
  let text = '';
  for (let at = from; at < to; at += 1) {
    const letter = bytes[at]!;
    if (letter > LAST_ASCII) return null;
    text += String.fromCharCode(letter);
  }
  return text;
}
