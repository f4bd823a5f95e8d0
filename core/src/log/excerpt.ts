import { decodeText, type DecodedText } from '../text/decode.js';
import type { RowBytes } from './body.js';
import type { Layout } from './layout.js';

/** From so many bytes on a log is read from its bytes: as a text it would stand in memory once more, beside its values. */
export const LONG_FILE_BYTES = 4_000_000;
/** A piece of this size, bytes, is looked at of a long file's beginning, its middle and its end. */
const PIECE_BYTES = 400_000;
const [QUOTE, LINE_FEED] = [0x22, 0x0a];

/** The beginning, the middle and the end of a long log as one text. */
export interface Excerpt extends DecodedText {
  /** So many letters of it are the beginning. */
  headLength: number;
  /** From this letter on it is the end. */
  tailStart: number;
}

/**
 * What the layout of a long log is found from. Null where it quotes cells, ends its lines with something else than a line feed, or is in an encoding in
 * which a letter's place does not tell its byte.
 * @throws GezeitError `binary-file`.
 */
export function excerptOf(bytes: Uint8Array, file: string): Excerpt | null {
  if (bytes.includes(QUOTE)) return null;
  const size = Math.min(PIECE_BYTES, Math.floor(bytes.length / 5));
  const afterLine = (from: number) => bytes.indexOf(LINE_FEED, from) + 1;
  const headEnd = afterLine(size);
  const middleFrom = afterLine(Math.floor((bytes.length - size) / 2));
  const middleEnd = afterLine(middleFrom + size);
  const tailFrom = afterLine(bytes.length - size);
  if (headEnd === 0 || middleFrom < headEnd || middleEnd < middleFrom || tailFrom < middleEnd) return null;
  const pieces = [bytes.subarray(0, headEnd), bytes.subarray(middleFrom, middleEnd), bytes.subarray(tailFrom)];
  const decoded = decodeText(joined(pieces), file);
  if (decoded.encoding !== 'utf-8' && decoded.encoding !== 'windows-1252') return null;
  const [head = '', middle = '', tail = ''] = pieces.map((piece) => new TextDecoder(decoded.encoding).decode(piece));
  // A text that was put right on the way has other bytes.
  if (head + middle + tail !== decoded.text) return null;
  return { ...decoded, headLength: head.length, tailStart: head.length + middle.length };
}

/** Where the rows stand in a long file's bytes; null where its layout took what stands around them for more than beginning and end. */
export function rowsBeside(excerpt: Excerpt, { text, bodyStart, bodyEnd }: Layout, bytes: Uint8Array): RowBytes | null {
  if (text !== excerpt.text || bodyStart > excerpt.headLength || bodyEnd <= excerpt.tailStart) return null;
  const lengthOf = (piece: string) => (excerpt.encoding === 'utf-8' ? new TextEncoder().encode(piece).length : piece.length);
  const from = (excerpt.byteOrderMark ? MARK_BYTES : 0) + lengthOf(text.slice(0, bodyStart));
  return { bytes, from, to: bytes.length - lengthOf(text.slice(bodyEnd)) };
}

/** A byte order mark of UTF-8 is left out of the text. */
const MARK_BYTES = 3;

function joined(pieces: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
