import { GezeitError } from '@gezeit/core';
import type { DataSource } from 'typeorm';
import { Change, Pull } from '../database/entities.js';
import { findProgramme } from './load-bundle.js';

/** Leaves a pull out, forces it in, or lets the rules decide; kept as a change that can be undone. */
export async function changeExclusion(
  source: DataSource,
  programmeId: string,
  key: string,
  excluded: string | false | null,
  by: string,
): Promise<void> {
  await source.transaction(async (manager) => {
    await findProgramme(manager, programmeId);
    const pull = await manager.findOneBy(Pull, { programmeId, key });
    if (!pull) throw new GezeitError('not-found', `There is no pull ${key} in this programme.`, 'Open the programme again.');
    const after = JSON.stringify(excluded);
    if (pull.excluded === after) return;
    await manager.update(Pull, { id: pull.id }, { excluded: after });
    await manager.insert(Change, {
      programmeId,
      at: new Date().toISOString(),
      by,
      kind: 'pull-excluded',
      subject: key,
      before: pull.excluded,
      after,
      undone: false,
    });
  });
}

/** Takes the last change back that is not undone yet. @throws GezeitError `nothing-to-undo`. */
export async function undoLast(source: DataSource, programmeId: string): Promise<void> {
  await source.transaction(async (manager) => {
    await findProgramme(manager, programmeId);
    const [last] = await manager.find(Change, { where: { programmeId, undone: false }, order: { id: 'DESC' }, take: 1 });
    if (!last)
      throw new GezeitError('nothing-to-undo', 'There is nothing to undo.', 'Every change of this programme is already taken back.');
    await manager.update(Pull, { programmeId, key: last.subject }, { excluded: last.before });
    await manager.update(Change, { id: last.id }, { undone: true });
  });
}
