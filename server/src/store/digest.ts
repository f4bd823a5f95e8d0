import { createHash } from 'node:crypto';
import type { Bundle, Evidence } from '@gezeit/contract';

/** SHA-256 of bytes or text, hexadecimal. */
export function sha256(content: Uint8Array | string): string {
  return createHash('sha256').update(content).digest('hex');
}

/** Digest of a bundle: its description and every file, whatever their order. */
export function bundleDigest(bundle: Bundle, fileDigests: ReadonlyMap<string, string>): string {
  const files = [...fileDigests].filter(([file]) => file !== 'gezeit.json').sort(([a], [b]) => (a < b ? -1 : 1));
  return sha256(JSON.stringify([bundle, files]));
}

/** Raised whenever the computation changes, so that stored findings are made anew. */
const COMPUTATION_VERSION = 3;

/**
 * Digest of everything that findings are computed from. Of the bench only the comparisons of the flow bench count, and where the path of a setup
 * names them: claims of flow are held against them.
 */
export function inputsDigest(bundle: Bundle, logDigests: readonly string[], evidence: readonly Evidence[]): string {
  const { bench, ...judged } = bundle;
  const setups = bundle.setups.map(({ path, partDetails, ...setup }) => ({
    ...setup,
    links: (path ?? []).flatMap(({ name, bench: loss }) => (loss?.evidence ? [[name, loss.evidence, loss.item ?? null]] : [])),
  }));
  const flow = evidence
    .filter(({ instrument }) => instrument === 'flow-bench')
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .map(({ id, setup, section, figures }) => [id, setup, section, figures]);
  return sha256(JSON.stringify([COMPUTATION_VERSION, { ...judged, setups }, [...logDigests].sort(), flow]));
}
