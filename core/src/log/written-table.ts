import { GezeitError } from '../errors.js';
import { decodeText, type DecodedText } from '../text/decode.js';
import { readBody, readBodyOfBytes, type BodyColumns } from './body.js';
import { excerptOf, rowsBeside } from './excerpt.js';
import { tableOfJsonLines } from './json-lines.js';
import { findLayout, type Layout } from './layout.js';
import type { TimeFormat } from './time-cells.js';

/** A table as it is written: how it is built, and its values. */
export interface WrittenTable {
  layout: Layout;
  body: BodyColumns;
  encoding: string;
}
/** In which order dates stand, by column, where somebody has said it. */
type OrdersOf = (layout: Layout) => (TimeFormat['order'] | null)[];

/**
 * The table that stands in a file. One of so many bytes or more is tried without a text of the whole, which comes to the same.
 * @throws GezeitError where it is empty, binary or no table.
 */
export function writtenTable(bytes: Uint8Array, file: string, ordersOf: OrdersOf, longFromBytes: number): WrittenTable {
  return (bytes.length < longFromBytes ? null : longTable(bytes, file, ordersOf)) ?? wholeTable(bytes, file, ordersOf);
}

function wholeTable(bytes: Uint8Array, file: string, ordersOf: OrdersOf): WrittenTable {
  const decoded = decodeText(bytes, file);
  const lines = tableOfJsonLines(decoded.text);
  const layout = findLayout(lines ?? decoded.text, file);
  return { layout, body: readBody(layout, ordersOf(layout)), encoding: lines === null ? encodingWords(decoded) : 'JSON lines' };
}

/** The same from the bytes of a long file; null where it has to be looked at as a whole. */
function longTable(bytes: Uint8Array, file: string, ordersOf: OrdersOf): WrittenTable | null {
  try {
    const excerpt = excerptOf(bytes, file);
    const layout = excerpt && findLayout(excerpt.text, file);
    const rows = layout && rowsBeside(excerpt, layout, bytes);
    const body = rows && readBodyOfBytes(layout, rows, ordersOf(layout));
    if (!body) return null;
    const rowsBelow = layout.text.slice(layout.bodyEnd).split(layout.lineEnd).length - 1;
    const cutRow = layout.cutRow === null ? null : layout.firstDataRow + body.rowCount + rowsBelow;
    return { layout: { ...layout, cutRow }, body, encoding: encodingWords(excerpt) };
  } catch (error) {
    // What the excerpt does not show may stand in the whole.
    if (error instanceof GezeitError) return null;
    throw error;
  }
}

const encodingWords = ({ encoding, byteOrderMark }: DecodedText): string => encoding + (byteOrderMark ? ' with byte order mark' : '');
