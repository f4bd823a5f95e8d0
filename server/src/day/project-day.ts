import { randomUUID } from 'node:crypto';
import type { Day as DayFields, DayEvent, DayHappening, LogReference, Pull as PullFields } from '@gezeit/contract';
import { leftUndone, type DayPull, type DayState } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { Day, Pull, Setup } from '../database/entities.js';
import { loadBundle } from '../store/load-bundle.js';
import { changeBody } from '../store/parts.js';

/** Devices whose clock leads, first one first. */
const LEADING = ['ecu', 'dyno', 'daq'];

/** Brings the programme's setups and pulls in line with its day: what the day made is written, what was there keeps its other fields. */
export async function projectDay(manager: EntityManager, programmeId: string, state: DayState, events: readonly DayEvent[]): Promise<void> {
  await projectSetups(manager, programmeId, events);
  if (state.day === null) return;
  if (SETTLES_THE_END.includes(events.at(-1)!.what.kind)) await projectEnd(manager, programmeId, state);
  const ended = state.pulls.filter(({ endedMs }) => endedMs !== null);
  if (ended.length === 0) return;
  const dayId = await dayRow(manager, programmeId, state.day);
  const rows = await manager.find(Pull, { where: { programmeId } });
  let position = Math.max(-1, ...rows.map((row) => row.position));
  for (const pull of ended) {
    const row = rows.find(({ key }) => key === pull.id);
    const before = row ? (JSON.parse(row.body) as Partial<PullFields>) : {};
    const logs = withOthers(logsOf(pull.id, state), before.logs ?? [], state);
    const body = JSON.stringify({ ...before, ...pullFields(pull, state), logs, amended: amendedOf(pull.id, state) });
    const startedAt = new Date(pull.startedMs).toISOString();
    if (row) {
      if (row.body !== body) await manager.update(Pull, { id: row.id }, { body, startedAt });
    } else {
      position += 1;
      await manager.insert(Pull, { id: randomUUID(), programmeId, dayId, position, key: pull.id, startedAt, excluded: 'null', body });
    }
  }
}

const SETTLES_THE_END: readonly DayHappening['kind'][] = ['ended', 'taken-back'];

/** What stood open when the day was ended, and why, is part of the record: it is told beside the answers. */
async function projectEnd(manager: EntityManager, programmeId: string, state: DayState): Promise<void> {
  const name = state.day!;
  const items = state.endedMs === null ? [] : leftUndone(await loadBundle(manager, programmeId), state, 'atEnd');
  const openAtEnd = items.length > 0 ? { items, reason: state.endReason ?? '' } : null;
  await changeBody(manager, programmeId, ({ rest }) => {
    const days = (rest['days'] ?? []) as DayFields[];
    const known = days.find(({ day }) => day === name);
    if (known) rest['days'] = days.map((entry) => (entry === known ? { ...entry, openAtEnd } : entry));
    else if (openAtEnd) rest['days'] = [...days, { day: name, odometerKm: null, openAtEnd }];
  });
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
    ecuReset: isFirstAfterSwap && swap.ecuReset,
    aborted: pull.aborted,
    day: state.day,
    ...(begun.mapVersion ? { mapVersion: begun.mapVersion } : {}),
    ...(begun.anyway ? { anyway: begun.anyway } : {}),
    gates: begun.stamp,
    typed: pull.typed,
    note: state.notes
      .filter((note) => note.pull === pull.id)
      .map(({ text }) => text)
      .join('; '),
  };
}

/** What was corrected of a pull afterwards, with who and why; null for nothing. */
function amendedOf(pull: string, { amendments }: DayState): PullFields['amended'] {
  const own = amendments.filter((entry) => entry.pull === pull);
  return own.length === 0 ? null : own.map(({ what, why, by, atMs }) => ({ what, why, by, at: new Date(atMs).toISOString() }));
}

function logsOf(pull: string, { matches, files }: DayState): LogReference[] {
  const sweepsOf = new Map(files.map(({ file, sweeps }) => [file, sweeps]));
  const logs = [...matches.values()].flatMap(({ device, matches: pairs }) =>
    pairs.filter((pair) => pair.pull === pull).map(({ file, sweep }) => ({ file, device, ...sweepsOf.get(file)?.[sweep ?? 0] })),
  );
  const rank = ({ device }: LogReference) => (LEADING.includes(device) ? LEADING.indexOf(device) : LEADING.length);
  return logs.sort((a, b) => rank(a) - rank(b));
}

/** What else was said of the day's logs stays with them, and files that were added to a pull in another way stay its. */
function withOthers(logs: LogReference[], before: readonly LogReference[], { files }: DayState): LogReference[] {
  const ofDay = new Set(files.map(({ file }) => file));
  const said = new Map(before.map((log) => [log.file, log]));
  return [...logs.map((log) => ({ ...said.get(log.file), ...log })), ...before.filter(({ file }) => !ofDay.has(file))];
}
