import { PassThrough, Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import type { Bundle } from '@gezeit/contract';
import type { EntityManager } from 'typeorm';
import { ZipFile } from 'yazl';
import { safePath } from '../bundle/bundle-files.js';
import { AttachmentEntity, Log } from '../database/entities.js';
import { evidenceFile, evidenceOf } from './evidence.js';
import { fixedFiles } from './fixed-findings.js';
import { loadBundle } from './load-bundle.js';

/**
 * A programme as a bundle (.zip): its description, its logs and attachments byte for byte, its evidence and its fixed findings. The files are read and packed
 * while they are sent, one at a time.
 * @throws GezeitError `not-found`.
 */
export async function exportBundle(manager: EntityManager, id: string): Promise<Readable> {
  const bundle = await loadBundle(manager, id);
  const logs = await manager.find(Log, { where: { programmeId: id }, select: { id: true, file: true } });
  const attachments = await manager.find(AttachmentEntity, {
    where: { programmeId: id, removed: false },
    select: { id: true, file: true },
  });
  const evidence = await evidenceOf(manager, id);
  const nameOf = safeNames([...logs, ...attachments].map(({ file }) => file));
  const zip = new ZipFile();
  zip.addBuffer(jsonOf(withUnknownStarts(withNames(bundle, nameOf))), 'gezeit.json');
  const kept: [typeof Log | typeof AttachmentEntity, { id: string; file: string }[]][] = [
    [Log, logs],
    [AttachmentEntity, attachments],
  ];
  for (const [entity, rows] of kept)
    for (const row of rows)
      zip.addReadStreamLazy(nameOf(row.file), { compressionLevel: 1 }, (done) => {
        manager.findOneOrFail(entity, { where: { id: row.id }, select: { id: true, compressed: true } }).then(
          ({ compressed }) => done(null, Readable.from([compressed]).pipe(createGunzip())),
          (error: unknown) => done(error, Readable.from([])),
        );
      });
  for (const entry of evidence) zip.addBuffer(jsonOf(entry), evidenceFile(entry.id));
  for (const [file, body] of await fixedFiles(manager, id)) zip.addBuffer(Buffer.from(body), file);
  zip.end();
  const out = zip.outputStream.pipe(new PassThrough());
  zip.on('error', (error: Error) => out.destroy(error));
  return out;
}

const jsonOf = (value: unknown) => Buffer.from(`${JSON.stringify(value, null, 2)}\n`);

/** Names under which files are exported: as they are, but for those that would lead out of a folder. */
function safeNames(files: readonly string[]): (file: string) => string {
  const changed = new Map<string, string>();
  for (const file of files) if (safePath(file) === null) changed.set(file, `files/${changed.size + 1}`);
  return (file) => changed.get(file) ?? file;
}

function withNames(bundle: Bundle, nameOf: (file: string) => string): Bundle {
  const pulls = bundle.pulls.map((pull) => ({ ...pull, logs: pull.logs.map((log) => ({ ...log, file: nameOf(log.file) })) }));
  return { ...bundle, pulls };
}

/** Starts that nobody knows are null in a bundle. */
function withUnknownStarts(bundle: Bundle): unknown {
  const pulls = bundle.pulls.map(({ startUnknown, ...pull }) => (startUnknown ? { ...pull, startedAt: null } : pull));
  return { ...bundle, pulls };
}
