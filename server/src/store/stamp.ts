import { missing } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { sha256 } from '../bundle/sha256.js';

interface ProgrammeFacts {
  id: string;
  archived: number;
  superseded: number;
  vehicle: string;
}

/**
 * What changes with everything that is stored of a programme, its car and its cells: its newest change, how many are taken back, the newest
 * happening of its day, and what its car and cells hold. Cheap enough to be asked for every second.
 * @throws GezeitError `not-found`.
 */
export async function stampOf(manager: EntityManager, id: string): Promise<string> {
  const stamp = (await stampsOf(manager, id)).get(id);
  if (stamp === undefined) throw missing('There is no such programme.', 'Go back to the board and open it from there.');
  return stamp;
}

/** The stamps of all programmes, or of one. */
export async function stampsOf(manager: EntityManager, only: string | null = null): Promise<Map<string, string>> {
  const ask = <T>(sql: string) => manager.query<T[]>(sql, only === null ? [] : [only]);
  const where = (column: string) => (only === null ? '' : `WHERE ${column} = ?`);
  const programmes = await ask<ProgrammeFacts>(
    `SELECT p.id, p.archived, p.superseded, v.body AS vehicle FROM programme p JOIN vehicle v ON v.id = p.vehicleId ${where('p.id')}`,
  );
  const cells = await ask<{ programmeId: string; body: string }>(
    `SELECT l.programmeId, c.body FROM programme_cell l JOIN cell c ON c.id = l.cellId ${where('l.programmeId')} ORDER BY l.programmeId, l.position`,
  );
  const changes = await ask<{ programmeId: string; newest: number; undone: number }>(
    `SELECT programmeId, MAX(id) AS newest, SUM(undone) AS undone FROM change ${where('programmeId')} GROUP BY programmeId`,
  );
  const happenings = await ask<{ programmeId: string; newest: number }>(
    `SELECT programmeId, MAX(position) AS newest FROM day_event ${where('programmeId')} GROUP BY programmeId`,
  );
  const changed = new Map(changes.map((row) => [row.programmeId, row]));
  const happened = new Map(happenings.map(({ programmeId, newest }) => [programmeId, newest]));
  // Cars and cells are shared: each is digested once.
  const digests = new Map<string, string>();
  const digestOf = (body: string) => digests.get(body) ?? digests.set(body, sha256(body).slice(0, 12)).get(body)!;
  const inCells = new Map<string, string>();
  for (const { programmeId, body } of cells) inCells.set(programmeId, `${inCells.get(programmeId) ?? ''}${digestOf(body)}`);
  return new Map(
    programmes.map(({ id, archived, superseded, vehicle }) => [
      id,
      [
        changed.get(id)?.newest ?? 0,
        changed.get(id)?.undone ?? 0,
        happened.get(id) ?? 0,
        archived,
        superseded,
        digestOf(vehicle),
        inCells.get(id) ?? '',
      ].join('.'),
    ]),
  );
}
