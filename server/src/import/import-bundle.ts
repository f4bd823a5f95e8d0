import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import type { Bundle, ImportState } from '@gezeit/contract';
import { analyseMeasured, measurePulls } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import type { Database } from '../database/database.js';
import type { BundleFiles } from '../bundle/read-bundle.js';
import { readTables } from '../bundle/read-tables.js';
import { Programme, Vehicle, type ProgrammeRow } from '../database/entities.js';
import { analysedOf } from '../analysis/analysed.js';
import { findingsDigest, pullDigests } from '../analysis/input-digests.js';
import { keepProducts } from '../analysis/kept-products.js';
import { bundleDigest, sha256 } from '../store/digest.js';
import { evidenceFile, readEvidence } from '../store/evidence.js';
import { storeBundle, type OriginalFile } from '../store/store-bundle.js';

export type ImportOutcome = NonNullable<ImportState['outcome']>;
export type ImportChoice = 'version' | 'copy' | null;
/** Called with the step, the share of it that is done, and what is being worked on. */
export type OnProgress = (step: ImportState['step'], share: number, detail: string) => void;

const compress = promisify(gzip);
const LEAST_CHUNK = 64 * 1024;

/**
 * Imports a bundle in one transaction: nothing is stored unless all of it can be read and judged. The same bundle opens the
 * programme that it became; a changed one needs a choice.
 */
export async function importBundle(
  database: Database,
  { bundle, files }: BundleFiles,
  by: string,
  choice: ImportChoice,
  onProgress: OnProgress,
): Promise<ImportOutcome> {
  const digests = new Map([...files].map(([file, bytes]) => [file, sha256(bytes)]));
  const digest = bundleDigest(bundle, digests);
  const same = await database.manager.findOneBy(Programme, { bundleDigest: digest });
  if (same && choice === null) return { kind: 'opened', programmeId: same.id };
  const earlier = await earlierVersion(database.manager, bundle);
  if (earlier && choice === null) return { kind: 'needs-choice', programmeId: earlier.id, title: earlier.title };

  const listed = new Set(bundle.pulls.flatMap(({ logs }) => logs.map(({ file }) => file)));
  // Compression runs on other threads while this one reads the tables; one output chunk, or it would wait for this one between chunks.
  const { evidence, unread } = readEvidence(files);
  const known = new Set(evidence.map(({ id }) => evidenceFile(id)));
  const others = [...files.keys()].filter((file) => file !== 'gezeit.json' && !listed.has(file) && !known.has(file));
  const compressing = [...listed, ...others].map(async (file): Promise<[string, OriginalFile]> => {
    const bytes = files.get(file)!;
    return [
      file,
      {
        byteCount: bytes.length,
        sha256: digests.get(file)!,
        compressed: await compress(bytes, { level: 1, chunkSize: Math.max(LEAST_CHUNK, bytes.length) }),
      },
    ];
  });
  await new Promise(setImmediate);
  const tables = readTables(bundle, files, (done, of, file) => onProgress('reading', done / of, file));
  onProgress('judging', 0, 'finding pulls and comparing setups');
  const measured = measurePulls(bundle, tables);
  const analysis = analyseMeasured(bundle, measured, evidence);
  onProgress('storing', 0, 'writing everything at once');
  const all = new Map(await Promise.all(compressing));
  const pick = (wanted: (file: string) => boolean) => new Map([...all].filter(([file]) => wanted(file)));
  const originals = pick((file) => listed.has(file));
  const programmeId = await database.write(async (manager) => {
    const asVersion = choice === 'version' && earlier;
    if (asVersion) await manager.update(Programme, { lineage: earlier.lineage }, { superseded: true });
    const id = await storeBundle(manager, {
      bundle,
      digest,
      tables,
      originals,
      evidence,
      attachments: pick((file) => !listed.has(file)),
      by,
      lineage: asVersion ? earlier.lineage : null,
      version: asVersion ? earlier.version + 1 : 1,
    });
    const state = { id, bundle, logs: new Map([...originals].map(([file, log]) => [file, log.sha256])), evidence };
    const digestOf = pullDigests(state);
    await keepProducts(manager, id, 'pull', new Map(measured.map((pull) => [digestOf.get(pull.id)!, pull])), [...digestOf.values()]);
    await keepProducts(manager, id, 'findings', new Map([[findingsDigest(state), analysedOf(analysis)]]));
    return id;
  });
  return {
    kind: 'imported',
    programmeId,
    notes: importNotes(
      [...unread.map((file) => `${file} is no evidence that Gezeit reads: kept as a file.`), ...analysis.findings.warnings],
      [...tables.values()].flatMap(({ file, report }) => report.notes.map((note) => `${file}: ${note}`)),
    ),
  };
}

/** The newest version of a programme of the same title on the same car. */
async function earlierVersion(manager: EntityManager, bundle: Bundle): Promise<ProgrammeRow | null> {
  const rows = await manager.find(Programme, { where: { title: bundle.programme.title, superseded: false }, order: { version: 'DESC' } });
  for (const row of rows) {
    const vehicle = await manager.findOneByOrFail(Vehicle, { id: row.vehicleId });
    if (vehicle.name === bundle.vehicle.name) return row;
  }
  return null;
}

const MOST_NOTES = 40;

function importNotes(warnings: string[], notes: string[]): string[] {
  const all = [...warnings, ...notes];
  return all.length <= MOST_NOTES ? all : [...all.slice(0, MOST_NOTES), `and ${all.length - MOST_NOTES} more: see Logs.`];
}
