import { GezeitError } from '../errors.js';

type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

export interface DecodedText {
  text: string;
  encoding: Encoding;
  byteOrderMark: boolean;
}

const SAMPLE_BYTES = 4096;
/** A text file holds hardly any control characters beside tab and line ends; above this share it is taken for binary. */
const CONTROL_SHARE_BINARY = 0.02;

/**
 * Text of a log file: a byte order mark decides, else the pattern of zero bytes (UTF-16), else valid UTF-8, else Windows-1252.
 * Decoding is the platform's own implementation of the WHATWG Encoding Standard.
 * @throws GezeitError `empty-file`, `binary-file`.
 */
export function decodeText(bytes: Uint8Array, file: string): DecodedText {
  if (bytes.length === 0) throw new GezeitError('empty-file', 'The file is empty.', 'Export the log again and check its size.', { file });
  const { encoding, byteOrderMark } = detectEncoding(bytes, file);
  const utf8 = encoding === 'utf-8' ? decodeUtf8(bytes) : null;
  const isOther = encoding === 'utf-8' && utf8 === null;
  const decoded = utf8 ?? new TextDecoder(isOther ? 'windows-1252' : encoding).decode(bytes);
  const text = encodedOnce(decoded);
  if (text.trim() === '') {
    throw new GezeitError('empty-file', 'The file holds nothing but blanks.', 'Export the log again and check its size.', { file });
  }
  return { text, encoding: isOther ? 'windows-1252' : encoding, byteOrderMark };
}

function detectEncoding(bytes: Uint8Array, file: string): { encoding: Encoding; byteOrderMark: boolean } {
  const [a, b, c] = bytes;
  if (a === 0xef && b === 0xbb && c === 0xbf) return { encoding: 'utf-8', byteOrderMark: true };
  if (a === 0xff && b === 0xfe) return { encoding: 'utf-16le', byteOrderMark: true };
  if (a === 0xfe && b === 0xff) return { encoding: 'utf-16be', byteOrderMark: true };
  const byZeros = encodingByZeroBytes(bytes.subarray(0, SAMPLE_BYTES));
  if (byZeros) return { encoding: byZeros, byteOrderMark: false };
  if (controlShare(bytes.subarray(0, SAMPLE_BYTES)) > CONTROL_SHARE_BINARY) {
    const next = 'Export the log as CSV or text from the logger and import that.';
    throw new GezeitError('binary-file', 'This is not a text table: it holds binary data.', next, { file });
  }
  return { encoding: 'utf-8', byteOrderMark: false };
}

function encodingByZeroBytes(sample: Uint8Array): Encoding | null {
  let even = 0;
  let odd = 0;
  sample.forEach((byte, index) => {
    if (byte === 0) {
      if (index % 2 === 0) even += 1;
      else odd += 1;
    }
  });
  const half = sample.length / 2;
  if (odd > 0.7 * half && even < 0.1 * half) return 'utf-16le';
  if (even > 0.7 * half && odd < 0.1 * half) return 'utf-16be';
  return null;
}

function controlShare(sample: Uint8Array): number {
  let control = 0;
  for (const byte of sample) {
    if (byte < 32 && byte !== 9 && byte !== 10 && byte !== 13 && byte !== 26) control += 1;
  }
  return control / sample.length;
}

/** "KÃ¼hlmittel": a text whose UTF-8 was taken for another encoding and encoded again, as it was before; any other as it is. */
function encodedOnce(text: string): string {
  if (!/[ÂÃ][\u0080-\u00bf]/.test(text.slice(0, SAMPLE_BYTES)) || /[\u0100-\uffff]/.test(text)) return text;
  return decodeUtf8(Uint8Array.from(text, (letter) => letter.charCodeAt(0))) ?? text;
}

/** The text, or null where the bytes are not valid UTF-8. */
function decodeUtf8(bytes: Uint8Array): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return null;
  }
}
