import { createHash } from 'node:crypto';
import { closeSync, openSync, readSync } from 'node:fs';

/** SHA-256 of bytes or text, hexadecimal. */
export function sha256(content: Uint8Array | string): string {
  return createHash('sha256').update(content).digest('hex');
}

const PIECE_BYTES = 1 << 20;

/** SHA-256 of a file, hexadecimal, of which only a piece is held at a time. */
export function sha256OfFile(path: string): string {
  const hash = createHash('sha256');
  const piece = Buffer.allocUnsafe(PIECE_BYTES);
  const file = openSync(path, 'r');
  try {
    for (let count = readSync(file, piece); count > 0; count = readSync(file, piece)) hash.update(piece.subarray(0, count));
  } finally {
    closeSync(file);
  }
  return hash.digest('hex');
}
