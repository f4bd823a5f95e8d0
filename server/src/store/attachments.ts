import { randomUUID } from 'node:crypto';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import { LIMITS, type Attachment } from '@gezeit/contract';
import { missing } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { AttachmentEntity } from '../database/entities.js';
import { recordChange } from './changes.js';
import { sha256 } from '../bundle/sha256.js';
import { mediaTypeOf } from './media-type.js';
import { refuseMore } from './refuse-more.js';

const unpacked = promisify(gunzip);
const packed = promisify(gzip);

/** The attachments of a programme by their path in the bundle. */
export async function attachmentsOf(manager: EntityManager, programmeId: string): Promise<Attachment[]> {
  const rows = await manager.find(AttachmentEntity, { where: { programmeId, removed: false }, order: { file: 'ASC' } });
  return rows.map(({ file, mediaType, byteCount }) => ({ file, mediaType, byteCount }));
}

/** A file byte for byte. @throws GezeitError `not-found`. */
export async function readAttachment(
  manager: EntityManager,
  programmeId: string,
  file: string,
): Promise<{ mediaType: string; bytes: Buffer }> {
  const row = await manager.findOne(AttachmentEntity, {
    where: { programmeId, file, removed: false },
    select: { file: true, mediaType: true, compressed: true },
  });
  if (!row) throw missing(`There is no file ${file}.`, 'Open the programme again.');
  return { mediaType: row.mediaType, bytes: await unpacked(row.compressed) };
}

/** Adds a file under `attachments/`, with a number after its name where that is taken; returns its path. @throws GezeitError `too-many`. */
export async function addAttachment(manager: EntityManager, programmeId: string, name: string, bytes: Buffer, by: string): Promise<string> {
  const plain = name.replace(/[^\p{L}\d._-]+/gu, '-').replace(/^[.-]+/, '') || 'file';
  const dot = plain.lastIndexOf('.') > 0 ? plain.lastIndexOf('.') : plain.length;
  const rows = await manager.find(AttachmentEntity, { where: { programmeId }, select: { file: true, removed: true } });
  refuseMore(rows.filter(({ removed }) => !removed).length, LIMITS.attachments, 'attached files');
  const taken = new Set(rows.map((row) => row.file));
  let file = `attachments/${plain}`;
  for (let i = 2; taken.has(file); i++) file = `attachments/${plain.slice(0, dot)}-${i}${plain.slice(dot)}`;
  await manager.insert(AttachmentEntity, {
    id: randomUUID(),
    programmeId,
    file,
    mediaType: mediaTypeOf(file),
    sha256: sha256(bytes),
    byteCount: bytes.length,
    removed: false,
    compressed: await packed(bytes),
  });
  await recordChange(manager, programmeId, by, { kind: 'attachment', subject: file, before: true, after: false });
  return file;
}
