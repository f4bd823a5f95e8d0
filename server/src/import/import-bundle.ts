import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import type { Bundle, ImportState } from '@gezeit/contract';
import { analyseMeasured, measurePulls, quantityWords, type Analysis, type LogTable } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import type { Database } from '../database/database.js';
import type { BundleFiles } from '../bundle/bundle-files.js';
import type { ReadBundle } from '../bundle/read-bundle.js';
import { devicesOf, readTable } from '../bundle/read-tables.js';
import { Log, Programme, Vehicle, type ProgrammeRow } from '../database/entities.js';
import { analysedOf } from '../analysis/analysed.js';
import { findingsDigest, pullDigests } from '../analysis/input-digests.js';
import { keepProducts } from '../analysis/kept-products.js';
import { addedSince, bytesOfLogs } from './added-files.js';
import { carryOver } from './carry-over.js';
import { stateOf } from '../analysis/programme-state.js';
import { bundleDigest } from '../store/digest.js';
import { evidenceFile, readEvidence } from '../store/evidence.js';
import { fixedFile, readFixed, storeFixed } from '../store/fixed-findings.js';
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
  { bundle: received, files: receivedFiles }: ReadBundle,
  by: string,
  choice: ImportChoice,
  onProgress: OnProgress,
): Promise<ImportOutcome> {
  const digests = new Map(receivedFiles.names.map((file) => [file, receivedFiles.digest(file)]));
  const digest = bundleDigest(received, digests);
  const same = await database.manager.findOneBy(Programme, { bundleDigest: digest });
  if (same && choice === null) return { kind: 'opened', programmeId: same.id };
  const earlier = await earlierVersion(database.manager, received, digests);
  if (earlier && choice === null) return { kind: 'needs-choice', programmeId: earlier.id, title: earlier.title };

  const {
    bundle,
    notes: carried,
    files: along,
  } = choice === 'version' && earlier
    ? carryOver(
        { bundle: received, logs: digests },
        await stateOf(database.manager, earlier),
        await addedSince(database.manager, earlier.lineage),
      )
    : { bundle: received, notes: [], files: [] };
  const files = earlier && along.length > 0 ? receivedFiles.with(await bytesOfLogs(database.manager, earlier.id, along)) : receivedFiles;
  for (const file of along) digests.set(file, files.digest(file));
  const { evidence, unread } = readEvidence(files);
  const fixed = readFixed(files);
  const { tables, originals } = await readLogs(bundle, files, digests, (done, of, file) => onProgress('reading', done / of, file));
  onProgress('judging', 0, 'finding pulls and comparing setups');
  const measured = measurePulls(bundle, tables);
  const analysis = analyseMeasured(bundle, measured, evidence);
  onProgress('storing', 0, 'writing everything at once');
  const known = new Set([
    ...evidence.map(({ id }) => evidenceFile(id)),
    ...fixed.map((entry) => fixedFile(entry.fixed.id)),
    ...originals.keys(),
    'gezeit.json',
  ]);
  const attachments = new Map<string, OriginalFile>();
  for (const file of files.names) if (!known.has(file)) attachments.set(file, await packed(files.read(file), digests.get(file)!));
  const programmeId = await database.write(async (manager) => {
    const asVersion = choice === 'version' && earlier;
    if (asVersion) await manager.update(Programme, { lineage: earlier.lineage }, { superseded: true });
    const id = await storeBundle(manager, {
      bundle,
      digest,
      tables,
      originals,
      evidence,
      attachments,
      by,
      lineage: asVersion ? earlier.lineage : null,
      version: asVersion ? earlier.version + 1 : 1,
    });
    for (const entry of fixed) await storeFixed(manager, id, entry.fixed, entry.body);
    const state = { id, bundle, logs: new Map([...originals].map(([file, log]) => [file, log.sha256])), evidence };
    const digestOf = pullDigests(state);
    await keepProducts(manager, id, 'pull', new Map(measured.map((pull) => [digestOf.get(pull.id)!, pull])), [...digestOf.values()]);
    await keepProducts(manager, id, 'findings', new Map([[findingsDigest(state), analysedOf(bundle, analysis)]]));
    return id;
  });
  return {
    kind: 'imported',
    programmeId,
    notes: importNotes(
      [
        ...carried,
        ...unknownColumns([...tables.values()]),
        ...unmatchedClocks(analysis),
        ...unread.map((file) => `${file} is no evidence that Gezeit reads: kept as a file.`),
        ...analysis.findings.warnings,
      ],
      [...tables.values()].flatMap(({ file, report }) => report.notes.map((note) => `${file}: ${note}`)),
    ),
  };
}

/** Every log that a pull lists, as a table and packed: one after the other, while another thread packs the one before. */
async function readLogs(
  bundle: Bundle,
  files: BundleFiles,
  digests: ReadonlyMap<string, string>,
  onFile: (done: number, of: number, file: string) => void,
): Promise<{ tables: Map<string, LogTable>; originals: Map<string, OriginalFile> }> {
  const devices = devicesOf(bundle);
  const tables = new Map<string, LogTable>();
  const originals = new Map<string, OriginalFile>();
  for (const [file, device] of devices) {
    onFile(tables.size, devices.size, file);
    const bytes = files.read(file);
    const packing = packed(bytes, digests.get(file)!);
    // What it throws is told below; until then it waits.
    packing.catch(() => undefined);
    await new Promise(setImmediate);
    tables.set(file, readTable(bundle, file, device, bytes));
    originals.set(file, await packing);
    files.letGo(file, bytes);
  }
  return { tables, originals };
}

/** A file as it is kept. One output chunk, or packing would wait for this thread between chunks. */
async function packed(bytes: Uint8Array, digest: string): Promise<OriginalFile> {
  const compressed = await compress(bytes, { level: 1, chunkSize: Math.max(LEAST_CHUNK, bytes.length) });
  // A buffer of its own size, where it is still the chunk's, which is as large as the file.
  const isOwn = compressed.buffer.byteLength === compressed.length;
  return { byteCount: bytes.length, sha256: digest, compressed: isOwn ? compressed : Buffer.from(compressed) };
}

/** The newest version of a programme of the same title on the same car; of several the one that has most of the logs, else the one that came first. */
async function earlierVersion(manager: EntityManager, bundle: Bundle, digests: ReadonlyMap<string, string>): Promise<ProgrammeRow | null> {
  const rows = await manager.find(Programme, {
    where: { title: bundle.programme.title, superseded: false },
    order: { version: 'DESC', createdAt: 'ASC' },
  });
  const logs = [...devicesOf(bundle).keys()].map((file) => digests.get(file)!);
  let best: { row: ProgrammeRow; shared: number } | null = null;
  for (const row of rows) {
    const vehicle = await manager.findOneByOrFail(Vehicle, { id: row.vehicleId });
    if (vehicle.name !== bundle.vehicle.name) continue;
    const own = new Set((await manager.find(Log, { where: { programmeId: row.id }, select: { sha256: true } })).map((log) => log.sha256));
    const shared = logs.filter((digest) => own.has(digest)).length;
    if (!best || shared > best.shared) best = { row, shared };
  }
  return best?.row ?? null;
}

/** What was not recognised but looks like something, a line for each kind of file. */
function unknownColumns(tables: readonly LogTable[]): string[] {
  const asked = new Map<string, number>();
  for (const { device, report } of tables)
    for (const { header, takenFor, rivals } of report.columns) {
      const [rival] = rivals;
      if (takenFor !== null || !rival) continue;
      const line = `${device}: "${header}" was not recognised; perhaps ${quantityWords(rival.quantity)}: say it in Logs`;
      asked.set(line, (asked.get(line) ?? 0) + 1);
    }
  return [...asked].map(([line, files]) => (files === 1 ? `${line}.` : `${line} (${files} files).`));
}

/** Files whose clock could not be matched feed no figure: said once for each device. */
function unmatchedClocks({ bundle, pulls }: Analysis): string[] {
  const deviceOf = new Map(bundle.pulls.flatMap(({ logs }) => logs.map(({ file, device }) => [file, device] as const)));
  const counts = new Map<string, number>();
  for (const { curve } of pulls)
    for (const { file, how } of curve?.alignments ?? []) {
      if (how !== 'same-clock' && how !== 'same-start') continue;
      const device = deviceOf.get(file) ?? file;
      counts.set(device, (counts.get(device) ?? 0) + 1);
    }
  return [...counts].map(
    ([device, times]) =>
      `${device}: its clock could not be matched in ${times} ${times === 1 ? 'pull' : 'pulls'}; what it logged there feeds no figure.`,
  );
}

const MOST_NOTES = 40;

function importNotes(warnings: string[], notes: string[]): string[] {
  const all = [...warnings, ...notes];
  return all.length <= MOST_NOTES ? all : [...all.slice(0, MOST_NOTES), `and ${all.length - MOST_NOTES} more: see Logs.`];
}
