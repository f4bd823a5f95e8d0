import type { Bundle } from '@gezeit/contract';
import { sha256 } from '../bundle/sha256.js';

/** Digest of a bundle: its description and every file, whatever their order. */
export function bundleDigest(bundle: Bundle, fileDigests: ReadonlyMap<string, string>): string {
  const files = [...fileDigests].filter(([file]) => file !== 'gezeit.json').sort(([a], [b]) => (a < b ? -1 : 1));
  return sha256(JSON.stringify([bundle, files]));
}
