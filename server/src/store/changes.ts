import type { ChangeKind, EditablePart } from '@gezeit/contract';
import { conflict, missing } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import type { Database } from '../database/database.js';
import { AttachmentEntity, Change, EvidenceEntity, FixedFindingEntity, Programme, Pull, type ChangeRow } from '../database/entities.js';
import { findProgramme } from './load-bundle.js';
import { undoEdit } from './parts.js';

/** A change as it is recorded; before and after are what the undo needs. */
export interface RecordedChange {
  kind: ChangeKind;
  subject: string;
  part?: EditablePart;
  before: unknown;
  after: unknown;
}

/** Records a change of a programme that can be undone; to be called inside the change's transaction. */
export async function recordChange(manager: EntityManager, programmeId: string, by: string, change: RecordedChange): Promise<void> {
  await manager.insert(Change, {
    programmeId,
    at: new Date().toISOString(),
    by,
    kind: change.kind,
    subject: change.subject,
    part: change.part ?? null,
    before: JSON.stringify(change.before ?? null),
    after: JSON.stringify(change.after ?? null),
    undone: false,
  });
}

/** Leaves a pull out, forces it in, or lets the rules decide; kept as a change that can be undone. */
export async function changeExclusion(
  database: Database,
  programmeId: string,
  key: string,
  excluded: string | false | null,
  by: string,
): Promise<void> {
  await database.write(async (manager) => {
    await findProgramme(manager, programmeId);
    const pull = await manager.findOneBy(Pull, { programmeId, key });
    if (!pull) throw missing(`There is no pull ${key} in this programme.`, 'Open the programme again.');
    const after = JSON.stringify(excluded);
    if (pull.excluded === after) return;
    await manager.update(Pull, { id: pull.id }, { excluded: after });
    await recordChange(manager, programmeId, by, {
      kind: 'pull-excluded',
      subject: key,
      before: JSON.parse(pull.excluded),
      after: excluded,
    });
  });
}

/** Puts a programme away, or brings it back to the board. */
export async function changeArchived(database: Database, programmeId: string, archived: boolean, by: string): Promise<void> {
  await database.write(async (manager) => {
    const row = await findProgramme(manager, programmeId);
    if (row.archived === archived) return;
    await manager.update(Programme, { id: programmeId }, { archived });
    await recordChange(manager, programmeId, by, { kind: 'archived', subject: row.title, before: row.archived, after: archived });
  });
}

type Undo = (manager: EntityManager, change: ChangeRow) => Promise<unknown>;

/** Kinds of change that are made elsewhere: how they are taken back is handed in. */
type MadeElsewhere = 'pull-amended' | 'files-added' | 'log-aligned';

const UNDO: Record<Exclude<ChangeKind, MadeElsewhere>, Undo> = {
  'pull-excluded': (manager, { programmeId, subject, before }) => manager.update(Pull, { programmeId, key: subject }, { excluded: before }),
  edit: undoEdit,
  evidence: (manager, { programmeId, subject, before }) =>
    manager.update(EvidenceEntity, { programmeId, key: subject }, { removed: JSON.parse(before) as boolean }),
  fixed: (manager, { programmeId, subject, before }) =>
    manager.update(FixedFindingEntity, { programmeId, key: subject }, { removed: JSON.parse(before) as boolean }),
  attachment: (manager, { programmeId, subject, before }) =>
    manager.update(AttachmentEntity, { programmeId, file: subject }, { removed: JSON.parse(before) as boolean }),
  archived: (manager, { programmeId, before }) =>
    manager.update(Programme, { id: programmeId }, { archived: JSON.parse(before) as boolean }),
};

/**
 * Takes the last change back that is not undone yet; resolves to its id. @param elsewhere how changes that are made elsewhere are taken back.
 * @throws GezeitError `nothing-to-undo`.
 */
export async function undoLast(database: Database, programmeId: string, elsewhere: Record<MadeElsewhere, Undo>): Promise<number> {
  return database.write(async (manager) => {
    await findProgramme(manager, programmeId);
    const [last] = await manager.find(Change, { where: { programmeId, undone: false }, order: { id: 'DESC' }, take: 1 });
    if (!last) throw conflict('nothing-to-undo', 'There is nothing to undo.', 'Every change of this programme is already taken back.');
    const undo: Record<ChangeKind, Undo> = { ...UNDO, ...elsewhere };
    await undo[last.kind](manager, last);
    await manager.update(Change, { id: last.id }, { undone: true });
    return last.id;
  });
}
