import { createHash } from 'node:crypto';
import type { Bundle } from '@gezeit/contract';

/** SHA-256 of bytes or text, hexadecimal. */
export function sha256(content: Uint8Array | string): string {
  return createHash('sha256').update(content).digest('hex');
}

/** Digest of a bundle: its description and every file, whatever their order. */
export function bundleDigest(bundle: Bundle, fileDigests: ReadonlyMap<string, string>): string {
  const files = [...fileDigests].filter(([file]) => file !== 'gezeit.json').sort(([a], [b]) => (a < b ? -1 : 1));
  return sha256(JSON.stringify([bundle, files]));
}
