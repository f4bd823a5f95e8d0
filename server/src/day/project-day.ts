import { randomUUID } from 'node:crypto';
import type { DayEvent, LogReference, Pull as PullFields } from '@gezeit/contract';
import type { DayPull, DayState } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { Day, Pull, Setup } from '../database/entities.js';

/** Devices whose clock leads, first one first. */
const LEADING = ['ecu', 'dyno', 'daq'];

/** Brings the programme's setups and pulls in line with its day: what the day made is written, what was there keeps its other fields. */
export async function projectDay(manager: EntityManager, programmeId: string, state: DayState, events: readonly DayEvent[]): Promise<void> {
  await projectSetups(manager, programmeId, events);
  if (state.day === null) return;
  const ended = state.pulls.filter(({ endedMs }) => endedMs !== null);
  if (ended.length === 0) return;
  const dayId = await dayRow(manager, programmeId, state.day);
  const rows = await manager.find(Pull, { where: { programmeId } });
  let position = Math.max(-1, ...rows.map((row) => row.position));
  for (const pull of ended) {
    const row = rows.find(({ key }) => key === pull.id);
    const before = row ? (JSON.parse(row.body) as Partial<PullFields>) : {};
    const body = JSON.stringify({ ...before, ...pullFields(pull, state) });
    const startedAt = new Date(pull.startedMs).toISOString();
    if (row) {
      if (row.body !== body) await manager.update(Pull, { id: row.id }, { body, startedAt });
    } else {
      position += 1;
      await manager.insert(Pull, { id: randomUUID(), programmeId, dayId, position, key: pull.id, startedAt, excluded: 'null', body });
    }
  }
}

async function projectSetups(manager: EntityManager, programmeId: string, events: readonly DayEvent[]): Promise<void> {
  const changed = events.flatMap(({ what }) => (what.kind === 'setup-changed' ? [what.setup] : []));
  if (changed.length === 0) return;
  const rows = await manager.find(Setup, { where: { programmeId } });
  let position = Math.max(-1, ...rows.map((row) => row.position));
  for (const setup of changed) {
    if (rows.some(({ key }) => key === setup.id)) continue;
    position += 1;
    await manager.insert(Setup, {
      id: randomUUID(),
      programmeId,
      position,
      key: setup.id,
      body: JSON.stringify({ ...setup, afterwards: true }),
    });
  }
}

async function dayRow(manager: EntityManager, programmeId: string, name: string): Promise<string> {
  const known = await manager.findOneBy(Day, { programmeId, name });
  if (known) return known.id;
  const id = randomUUID();
  await manager.insert(Day, { id, programmeId, name });
  return id;
}

/** A pull as the exchange format has it. */
function pullFields(pull: DayPull, state: DayState): Partial<PullFields> {
  const { begun, startedMs } = pull;
  const swap = state.swaps.findLast(({ atMs }) => atMs <= startedMs);
  const isFirstAfterSwap = swap !== undefined && !state.pulls.some((other) => other.startedMs >= swap.atMs && other.startedMs < startedMs);
  return {
    id: pull.id,
    setup: pull.setup,
    kind: pull.kind,
    startedAt: new Date(startedMs).toISOString(),
    ambient: begun.weather,
    start: begun.start,
    logs: logsOf(pull.id, state),
    ecuReset: isFirstAfterSwap && swap.ecuReset,
    aborted: pull.aborted,
    day: state.day,
    ...(begun.mapVersion ? { mapVersion: begun.mapVersion } : {}),
    ...(begun.anyway ? { anyway: begun.anyway } : {}),
    gates: begun.stamp,
    ...(pull.typed ? { typed: pull.typed } : {}),
    note: state.notes
      .filter((note) => note.pull === pull.id)
      .map(({ text }) => text)
      .join('; '),
  };
}

function logsOf(pull: string, { matches }: DayState): LogReference[] {
  const logs = [...matches.values()].flatMap(({ device, matches: pairs }) =>
    pairs.filter((pair) => pair.pull === pull).map(({ file }) => ({ file, device })),
  );
  const rank = ({ device }: LogReference) => (LEADING.includes(device) ? LEADING.indexOf(device) : LEADING.length);
  return logs.sort((a, b) => rank(a) - rank(b));
}
