import { randomUUID } from 'node:crypto';
import { pullSchema } from '@gezeit/contract';
import { conflict, GezeitError, missing } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { Day, Log, Pull, Setup, Trace } from '../database/entities.js';
import { findProgramme } from '../store/load-bundle.js';

/** Lets a pull serve another programme on the same car too: it is written there with its logs, and both say so. */
export async function servePull(
  manager: EntityManager,
  programmeId: string,
  key: string,
  other: { programmeId: string; setup: string },
): Promise<void> {
  const [own, there] = [await findProgramme(manager, programmeId), await findProgramme(manager, other.programmeId)];
  if (own.vehicleId !== there.vehicleId)
    throw new GezeitError('other-car', 'That programme runs on another car.', 'A pull serves programmes on the car that drove it.');
  const row = await manager.findOneBy(Pull, { programmeId, key });
  if (!row) throw missing(`There is no pull ${key} yet.`, 'Wait until it has ended.');
  if (!(await manager.findOneBy(Setup, { programmeId: other.programmeId, key: other.setup })))
    throw missing(`There is no setup ${other.setup} there.`, 'Choose one of its list.');
  const body = pullSchema.parse({ ...(JSON.parse(row.body) as object) });
  const programmes = [...new Set([...(body.programmes ?? []), own.title, there.title])];
  const pulls = await manager.find(Pull, { where: { programmeId: other.programmeId } });
  if (pulls.some(({ startedAt }) => startedAt === row.startedAt))
    throw conflict('already-kept', 'It serves that programme already.', 'Nothing is left to do.');
  const taken = new Set(pulls.map((pull) => pull.key));
  let number = taken.size + 1;
  while (taken.has(`p${String(number).padStart(2, '0')}`)) number += 1;
  const logs = [];
  for (const log of body.logs) logs.push({ ...log, file: await copyLog(manager, programmeId, other.programmeId, log.file) });
  const id = `p${String(number).padStart(2, '0')}`;
  const day = body.day ?? body.startedAt.slice(0, 10);
  await manager.insert(Pull, {
    id: randomUUID(),
    programmeId: other.programmeId,
    dayId: await dayOf(manager, other.programmeId, day),
    position: Math.max(-1, ...pulls.map(({ position }) => position)) + 1,
    key: id,
    startedAt: row.startedAt,
    excluded: 'null',
    body: JSON.stringify({ ...body, id, setup: other.setup, logs, programmes }),
  });
  await manager.update(Pull, { id: row.id }, { body: JSON.stringify({ ...body, programmes }) });
}

async function dayOf(manager: EntityManager, programmeId: string, name: string): Promise<string> {
  const known = await manager.findOneBy(Day, { programmeId, name });
  if (known) return known.id;
  const id = randomUUID();
  await manager.insert(Day, { id, programmeId, name });
  return id;
}

/** The same bytes and traces under the other programme; a log that is there already is used. Returns its file there. */
async function copyLog(manager: EntityManager, from: string, to: string, file: string): Promise<string> {
  const log = await manager.findOne(Log, { where: { programmeId: from, file }, select: allOf('compressed') });
  if (!log) throw missing(`There is no log ${file}.`, 'Open the programme again.');
  const same = await manager.findOneBy(Log, { programmeId: to, sha256: log.sha256 });
  if (same) return same.file;
  let name = file;
  for (let i = 2; await manager.findOneBy(Log, { programmeId: to, file: name }); i++) name = file.replace(/(\.[^.]*)?$/, `-${i}$1`);
  const id = randomUUID();
  await manager.insert(Log, { ...log, id, programmeId: to, file: name });
  const traces = await manager.query<Record<string, unknown>[]>('SELECT * FROM "trace" WHERE "logId" = ?', [log.id]);
  for (const trace of traces)
    await manager.insert(Trace, { ...trace, id: randomUUID(), logId: id, gauge: Boolean(trace['gauge']) } as never);
  return name;
}

/** Columns of a log with one that is not read by itself. */
function allOf(extra: 'compressed') {
  return {
    id: true,
    programmeId: true,
    file: true,
    device: true,
    sha256: true,
    byteCount: true,
    rowCount: true,
    report: true,
    [extra]: true,
  } as const;
}
