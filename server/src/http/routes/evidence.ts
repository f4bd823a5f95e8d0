import { createdSchema, evidenceDraftSchema, evidenceSchema, programmeChangedSchema } from '@gezeit/contract';
import { z } from 'zod';
import { addAttachment, readAttachment } from '../../store/attachments.js';
import { recordChange } from '../../store/changes.js';
import { keepEvidence, removeEvidence } from '../../store/evidence.js';
import { findProgramme } from '../../store/load-bundle.js';
import { AttachmentEntity } from '../../database/entities.js';
import { programmeChanged } from '../programme-view.js';
import { PHOTO_OR_SHEET, receiveFile } from '../receive-file.js';
import { idParams, route, StoredAnswer } from '../route.js';
import { missing } from '@gezeit/core';

const fileQuery = z.object({ file: z.string().min(1).max(300) });

export const evidenceRoutes = [
  route({
    method: 'post',
    path: '/api/programmes/:id/evidence',
    summary: 'Keep a result of the bench as evidence.',
    params: idParams,
    body: evidenceDraftSchema,
    answer: programmeChangedSchema,
    changes: true,
    async handle({ params, body, person, services }) {
      await services.database.write(async (manager) => {
        await findProgramme(manager, params.id);
        const evidence = evidenceSchema.parse({ ...body, by: person, at: new Date().toISOString() });
        await keepEvidence(manager, params.id, evidence, person);
      });
      return new StoredAnswer(programmeChanged(services, params.id));
    },
  }),
  route({
    method: 'delete',
    path: '/api/programmes/:id/evidence/:key',
    summary: 'Take a piece of evidence away; undo brings it back.',
    params: idParams.extend({ key: z.string().min(1).max(80) }),
    answer: programmeChangedSchema,
    changes: true,
    async handle({ params, person, services }) {
      await services.database.write((manager) => removeEvidence(manager, params.id, params.key, person));
      return new StoredAnswer(programmeChanged(services, params.id));
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/attachments',
    summary: 'Attach a photo or sheet (multipart, one file); answers its path in the bundle.',
    params: idParams,
    answer: createdSchema,
    changes: true,
    status: 201,
    async handle({ params, person, request, services }) {
      const { name, bytes } = await receiveFile(request, PHOTO_OR_SHEET);
      return services.database.write(async (manager) => {
        await findProgramme(manager, params.id);
        return { id: await addAttachment(manager, params.id, name, bytes, person) };
      });
    },
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/attachments',
    summary: 'An attached file, byte for byte.',
    params: idParams,
    query: fileQuery,
    answer: 'application/octet-stream',
    async handle({ params, query, services }) {
      const { mediaType, bytes } = await readAttachment(services.database.manager, params.id, query.file);
      const shown = mediaType.startsWith('image/');
      return { type: mediaType, body: bytes, ...(shown ? {} : { fileName: query.file.split('/').at(-1)! }) };
    },
  }),
  route({
    method: 'delete',
    path: '/api/programmes/:id/attachments',
    summary: 'Take an attached file away; undo brings it back.',
    params: idParams,
    query: fileQuery,
    answer: programmeChangedSchema,
    changes: true,
    async handle({ params, query, person, services }) {
      await services.database.write(async (manager) => {
        const row = await manager.findOneBy(AttachmentEntity, { programmeId: params.id, file: query.file, removed: false });
        if (!row) throw missing(`There is no file ${query.file}.`, 'Open the programme again.');
        await manager.update(AttachmentEntity, { id: row.id }, { removed: true });
        await recordChange(manager, params.id, person, { kind: 'attachment', subject: query.file, before: false, after: true });
      });
      return new StoredAnswer(programmeChanged(services, params.id));
    },
  }),
];
