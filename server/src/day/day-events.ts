import { randomUUID } from 'node:crypto';
import { dayEventSchema, type DayEvent } from '@gezeit/contract';
import { dayRefusal, dayRefusalError, dayState, type DayState } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { DayEventEntity, type DayEventRow } from '../database/entities.js';
import { loadBundle } from '../store/load-bundle.js';
import { projectDay } from './project-day.js';

const eventOf = ({ id, at, by, body }: DayEventRow): DayEvent => dayEventSchema.parse({ id, at, by, what: JSON.parse(body) as unknown });

/** A visit to the cell: its events in the order in which they came. */
export interface StoredRun {
  run: string | null;
  events: DayEvent[];
}

/** The newest visit of a programme; empty where there was none. */
export async function newestRun(manager: EntityManager, programmeId: string): Promise<StoredRun> {
  const [last] = await manager.find(DayEventEntity, { where: { programmeId }, order: { position: 'DESC' }, take: 1 });
  if (!last) return { run: null, events: [] };
  const rows = await manager.find(DayEventEntity, { where: { programmeId, run: last.run }, order: { position: 'ASC' } });
  return { run: last.run, events: rows.map(eventOf) };
}

/**
 * Adds what happened to the newest visit (a new one where a day begins), in a transaction, and brings pulls and setups of the programme
 * in line with it. What came before already is passed over, so that a window may send again after a lost connection.
 * @throws GezeitError where something may not happen now; nothing of the call is kept then.
 */
export async function addEvents(
  manager: EntityManager,
  programmeId: string,
  events: readonly DayEvent[],
): Promise<{ stored: StoredRun; state: DayState }> {
  let { run, events: known } = await newestRun(manager, programmeId);
  const seen = new Set(known.map(({ id }) => id));
  for (const event of events) {
    if (seen.has(event.id)) continue;
    const earlier = await manager.findOneBy(DayEventEntity, { programmeId, id: event.id });
    if (earlier) continue;
    const before = dayState(known);
    const begins = event.what.kind === 'begun';
    const bundle = await loadBundle(manager, programmeId);
    const refusal = dayRefusal(bundle, begins && before.endedMs !== null ? dayState([]) : before, event.what);
    if (refusal) throw dayRefusalError(refusal);
    if (begins) [run, known] = [randomUUID(), []];
    await manager.insert(DayEventEntity, {
      id: event.id,
      programmeId,
      run: run!,
      at: event.at,
      by: event.by,
      body: JSON.stringify(event.what),
    } as DayEventRow);
    seen.add(event.id);
    known = [...known, event];
    if (event.what.kind === 'setup-changed') await projectDay(manager, programmeId, dayState(known), known);
  }
  const state = dayState(known);
  await projectDay(manager, programmeId, state, known);
  return { stored: { run, events: known }, state };
}
