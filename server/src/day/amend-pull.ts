import { randomUUID } from 'node:crypto';
import type { Amendment, Pull as PullFields } from '@gezeit/contract';
import { amendedParts, missing } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import type { Database } from '../database/database.js';
import { Pull, Setup, type ChangeRow } from '../database/entities.js';
import { recordChange } from '../store/changes.js';
import { findProgramme } from '../store/load-bundle.js';
import { addEvents, newestRun } from './day-events.js';

/** What an undo needs: the fields as they were, and the event of the day's line that said the correction, where there is one. */
interface Undoable {
  event: string | null;
  fields: Partial<PullFields>;
}

/** Corrects a driven pull; kept as a change that can be undone. */
export async function changePull(database: Database, programmeId: string, key: string, amendment: Amendment, by: string): Promise<void> {
  await database.write(async (manager) => {
    await findProgramme(manager, programmeId);
    const before = await amendPull(manager, programmeId, key, amendment, by);
    await recordChange(manager, programmeId, by, { kind: 'pull-amended', subject: key, before, after: amendment });
  });
}

/**
 * Corrects a driven pull: on the line of its day where that is known, so that the day says the same, else in the pull alone.
 * @returns what an undo needs.
 * @throws GezeitError `not-found`.
 */
async function amendPull(manager: EntityManager, programmeId: string, key: string, amendment: Amendment, by: string): Promise<Undoable> {
  const row = await manager.findOneBy(Pull, { programmeId, key });
  if (!row) throw missing(`There is no pull ${key} in this programme.`, 'Open the programme again.');
  const { setup } = amendment;
  if (setup !== undefined && !(await manager.existsBy(Setup, { programmeId, key: setup })))
    throw missing(`There is no setup ${setup} in this programme.`, 'Choose one of its list.');
  const at = new Date().toISOString();
  const body = JSON.parse(row.body) as PullFields;
  const entries = amendedParts(amendment).map((what) => ({ what, why: amendment.why, by, at }));
  const changed: Partial<PullFields> = { ...fieldsOf(amendment), amended: [...(body.amended ?? []), ...entries] };
  const fields = Object.fromEntries(Object.keys(changed).map((field) => [field, body[field] ?? null]));
  const { events } = await newestRun(manager, programmeId);
  if (events.some(({ what }) => what.kind === 'pull-started' && what.pull === key)) {
    const event = randomUUID();
    await addEvents(manager, programmeId, [{ id: event, at, by, what: { kind: 'pull-amended', pull: key, ...amendment } }]);
    return { event, fields };
  }
  await manager.update(Pull, { id: row.id }, { body: JSON.stringify({ ...body, ...changed }) });
  return { event: null, fields };
}

function fieldsOf({ weather, setup, pullKind, aborted, typed }: Amendment): Partial<PullFields> {
  return {
    ...(weather ? { ambient: weather } : {}),
    ...(setup === undefined ? {} : { setup }),
    ...(pullKind ? { kind: pullKind } : {}),
    ...(aborted === undefined ? {} : { aborted }),
    ...(typed ? { typed } : {}),
  };
}

/** Takes a correction back; one that was taken back on the line of its day already is left so. */
export async function undoAmendment(manager: EntityManager, { programmeId, subject, before, by }: ChangeRow): Promise<void> {
  const { event, fields } = JSON.parse(before) as Undoable;
  const { events } = await newestRun(manager, programmeId);
  if (events.some(({ id }) => id === event)) {
    if (events.some(({ what }) => what.kind === 'taken-back' && what.event === event)) return;
    const takenBack = { kind: 'taken-back', event: event! } as const;
    await addEvents(manager, programmeId, [{ id: randomUUID(), at: new Date().toISOString(), by, what: takenBack }]);
    return;
  }
  const row = await manager.findOneByOrFail(Pull, { programmeId, key: subject });
  await manager.update(Pull, { id: row.id }, { body: JSON.stringify({ ...(JSON.parse(row.body) as object), ...fields }) });
}
