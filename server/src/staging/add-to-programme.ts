import { randomUUID } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import type {
  Bundle,
  ChannelMapping,
  Channels,
  LogReference,
  Pull as PullFields,
  Setup as SetupFields,
  Standing,
  StagedDecisions,
} from '@gezeit/contract';
import { analyse, conflict, dayOrder, keptPulls, type LogTable } from '@gezeit/core';
import { In, type EntityManager } from 'typeorm';
import { letGo } from '../bundle/let-go.js';
import { readTable } from '../bundle/read-tables.js';
import type { Database } from '../database/database.js';
import { Change, Day, Log, Pull, Setup, Trace, type ChangeRow } from '../database/entities.js';
import { recordChange } from '../store/changes.js';
import { sha256 } from '../bundle/sha256.js';
import { evidenceOf } from '../store/evidence.js';
import { loadTables } from '../store/load-bundle.js';
import { changeBody } from '../store/parts.js';
import { storeLog, type OriginalFile } from '../store/store-bundle.js';
import type { FoundFile } from '../reading/loose-files.js';
import { readableFiles, type OnFile } from './read-stage.js';
import type { StageFiles, StageRead } from './stage-files.js';
import { ownName, standingOf, type StandingProgramme } from './standing-programme.js';

/** A stage with the programme to which it is added, as that stands now. */
interface WholeStage extends Omit<StageRead, 'standing'> {
  standing: StandingProgramme;
  decisions: StagedDecisions;
  readable: FoundFile[];
  names: Map<string, string>;
}

/** What an undo needs: the logs that pulls listed before, and what is new. */
interface Undoable {
  logs: Record<string, LogReference[]>;
  pulls: string[];
  setups: string[];
  files: string[];
  channels: Channels | null;
}

/**
 * Adds the files of a stage to the programme that they were dropped on: to pulls that stand, and as new pulls. One transaction and one change
 * that can be undone; nothing is stored unless the whole can be judged. For the worker.
 * @throws GezeitError where the programme cannot be judged with them, or they add nothing.
 */
export async function addToProgramme(database: Database, stages: StageFiles, id: string, by: string, onFile: OnFile): Promise<string> {
  const { into, decisions } = stages.stage(id);
  const { reading, hints, standing: asRead } = stages.readWhole(id);
  const standing = await standingOf(database.manager, into!);
  const idsOf = (said: Standing | null) => said?.pulls.map((pull) => pull.id).join();
  if (idsOf(asRead) !== idsOf(standing.said))
    throw conflict(
      'changed-since',
      'Pulls came to the programme, or went, since these files were read.',
      'Choose it once more as the one that they go into.',
    );
  const { programmeId } = standing.said;
  const { readable, names } = await readableFiles(stages, id, { reading, hints, standing: standing.said });
  const whole: WholeStage = { reading, hints, standing, decisions, readable, names };
  const { bundle, added } = withAdded(whole);
  const files = addedFiles(whole, bundle, added, onFile);
  if (files.size === 0 && !changesLogs(standing.bundle, bundle))
    throw conflict('nothing-added', 'These files add nothing to the programme.', 'Say which pull they belong to, or throw them away.');
  const tables = await loadTables(
    database.manager,
    programmeId,
    standing.bundle.pulls.flatMap(({ logs }) => logs.map(({ file }) => file)),
  );
  for (const [file, { table }] of files) tables.set(file, table);
  analyse(bundle, tables, await evidenceOf(database.manager, programmeId));
  await database.write(async (manager) => {
    const undoable = await store(manager, standing, bundle, files);
    const what = `${files.size} ${files.size === 1 ? 'file' : 'files'}`;
    await recordChange(manager, programmeId, by, { kind: 'files-added', subject: what, before: undoable, after: [...files.keys()] });
  });
  return programmeId;
}

/** The programme as it is with the files, and under which name each of them is kept. */
function withAdded(whole: WholeStage): { bundle: Bundle; added: Map<string, string> } {
  const { decisions, names, standing } = whole;
  const { bundle: before, said } = standing;
  const taken = new Set(before.pulls.flatMap(({ logs }) => logs.map(({ file }) => file)));
  const added = new Map([...names].map(([file, name]) => [file, freeName(name, taken)]));
  const pulls = keptPulls(whole.reading, whole.hints, decisions, (file) => ownName(file) ?? added.get(file)!);
  const standingIds = new Set(said.pulls.map((pull) => pull.id));
  const read = new Map(whole.reading.pulls.map((pull) => [pull.id, pull]));
  const found = new Map(pulls.map((pull) => [pull.id, pull]));
  const stated = before.pulls.map((pull): PullFields => {
    // A file that cannot be brought to a sweep is no member in the reading, and stays where it was.
    const shown = new Set(read.get(pull.id)?.members.map(({ file }) => ownName(file)));
    const moved = new Set(Object.keys(decisions.places).map((key) => ownName(key.replace(/#[^#]*$/, ''))));
    const own = pull.logs.filter(({ file }) => shown.has(file) || !moved.has(file));
    const fresh = (found.get(pull.id)?.logs ?? []).filter(({ file }) => !pull.logs.some((log) => log.file === file));
    return {
      ...pull,
      logs: [...own, ...fresh.map((log) => ({ ...log, offsetS: own.length > 0 ? fromFirst(log, own, found.get(pull.id)!) : log.offsetS }))],
    };
  });
  const fresh = pulls.filter((pull) => !standingIds.has(pull.id));
  const setups = decisions.setups.filter(
    ({ id: key }) => fresh.some(({ setup }) => setup === key) && !before.setups.some((setup) => setup.id === key),
  );
  return {
    bundle: {
      ...before,
      pulls: [...stated, ...fresh],
      setups: [
        ...before.setups,
        ...setups.map(({ id: key, name }): SetupFields => ({ id: key, name, reference: false, parts: [], state: {} })),
      ],
      channels: channelsWith(before.channels ?? null, whole, decisions.channels, added),
    },
    added,
  };
}

/** Offsets of a reading are from its own first file of the pull; those of the programme from the first that the pull lists. */
function fromFirst(log: LogReference, own: readonly LogReference[], { logs }: PullFields): number | null {
  const lead = logs.find(({ file }) => file === own[0]!.file);
  if (log.offsetS == null || lead?.offsetS == null) return null;
  return log.offsetS - lead.offsetS;
}

/** What was decided about columns counts for the added files alone: what the programme has was read as it was. */
function channelsWith(
  before: Channels | null,
  { reading }: WholeStage,
  decided: Channels | null,
  added: ReadonlyMap<string, string>,
): Channels | null {
  const channels: Channels = { ...before };
  for (const { file, device } of reading.files) {
    const name = added.get(file);
    const own: Record<string, ChannelMapping> = { ...decided?.[device], ...decided?.[`file:${file}`] };
    if (name && Object.keys(own).length > 0) channels[`file:${name}`] = own;
  }
  return Object.keys(channels).length > 0 ? channels : null;
}

function freeName(name: string, taken: Set<string>): string {
  const dot = name.lastIndexOf('.') > name.lastIndexOf('/') ? name.lastIndexOf('.') : name.length;
  let free = name;
  for (let i = 2; taken.has(free); i += 1) free = `${name.slice(0, dot)}-${i}${name.slice(dot)}`;
  taken.add(free);
  return free;
}

interface AddedFile {
  table: LogTable;
  original: OriginalFile;
}

/** The added files that a pull lists, read as the programme says. */
function addedFiles({ readable }: WholeStage, bundle: Bundle, added: ReadonlyMap<string, string>, onFile: OnFile): Map<string, AddedFile> {
  const listed = new Map(bundle.pulls.flatMap(({ logs }) => logs.map(({ file, device }) => [file, device] as const)));
  return new Map(
    readable.flatMap(({ file, read }, i) => {
      onFile(i / readable.length, file);
      const name = added.get(file)!;
      const device = listed.get(name);
      if (device === undefined) return [];
      const bytes = read();
      const original = { byteCount: bytes.length, sha256: sha256(bytes), compressed: gzipSync(bytes, { level: 1 }) };
      const table = readTable(bundle, name, device, bytes);
      letGo(bytes);
      return [[name, { table, original }] as const];
    }),
  );
}

const changesLogs = (before: Bundle, after: Bundle) =>
  after.pulls.length > before.pulls.length ||
  before.pulls.some(({ logs }, i) => JSON.stringify(logs) !== JSON.stringify(after.pulls[i]!.logs));

async function store(
  manager: EntityManager,
  { bundle: before, said: { programmeId } }: StandingProgramme,
  bundle: Bundle,
  files: ReadonlyMap<string, AddedFile>,
): Promise<Undoable> {
  for (const [file, { table, original }] of files) await storeLog(manager, programmeId, file, table, original);
  const logs: Record<string, LogReference[]> = {};
  for (const [i, pull] of before.pulls.entries()) {
    const next = bundle.pulls[i]!.logs;
    if (JSON.stringify(next) === JSON.stringify(pull.logs)) continue;
    logs[pull.id] = pull.logs;
    await setLogs(manager, programmeId, pull.id, next);
  }
  const setups = bundle.setups.slice(before.setups.length);
  for (const [i, setup] of setups.entries())
    await manager.insert(Setup, {
      id: randomUUID(),
      programmeId,
      position: before.setups.length + i,
      key: setup.id,
      body: JSON.stringify({ ...setup, afterwards: true }),
    });
  const fresh = bundle.pulls.slice(before.pulls.length);
  await insertPulls(manager, programmeId, bundle, fresh);
  await writeChannels(manager, programmeId, bundle.channels ?? null);
  return {
    logs,
    pulls: fresh.map(({ id }) => id),
    setups: setups.map(({ id }) => id),
    files: [...files.keys()],
    channels: before.channels ?? null,
  };
}

async function setLogs(manager: EntityManager, programmeId: string, key: string, logs: LogReference[]): Promise<void> {
  const row = await manager.findOneByOrFail(Pull, { programmeId, key });
  await manager.update(Pull, { id: row.id }, { body: JSON.stringify({ ...(JSON.parse(row.body) as object), logs }) });
}

async function insertPulls(manager: EntityManager, programmeId: string, bundle: Bundle, fresh: readonly PullFields[]): Promise<void> {
  const places = dayOrder(bundle.pulls);
  const first = (await manager.maximum(Pull, 'position', { programmeId })) ?? -1;
  for (const [i, { excluded, ...body }] of fresh.entries()) {
    const { day } = places.get(body.id)!;
    const known = await manager.findOneBy(Day, { programmeId, name: day });
    const dayId = known?.id ?? randomUUID();
    if (!known) await manager.insert(Day, { id: dayId, programmeId, name: day });
    await manager.insert(Pull, {
      id: randomUUID(),
      programmeId,
      dayId,
      position: first + 1 + i,
      key: body.id,
      startedAt: body.startedAt,
      excluded: JSON.stringify(excluded ?? null),
      body: JSON.stringify(body),
    });
  }
}

const writeChannels = (manager: EntityManager, programmeId: string, channels: Channels | null) =>
  changeBody(manager, programmeId, ({ rest }) => {
    if (channels === null) delete rest['channels'];
    else rest['channels'] = channels;
  });

/** Takes added files out again, with the pulls and setups that came with them. */
export async function undoAdded(manager: EntityManager, { programmeId, before }: ChangeRow): Promise<void> {
  const { logs, pulls, setups, files, channels } = JSON.parse(before) as Undoable;
  for (const [key, listed] of Object.entries(logs)) await setLogs(manager, programmeId, key, listed);
  await manager.delete(Pull, { programmeId, key: In(pulls) });
  await manager.delete(Setup, { programmeId, key: In(setups) });
  const rows = await manager.find(Log, { where: { programmeId, file: In(files) }, select: { id: true } });
  await manager.delete(Trace, { logId: In(rows.map(({ id }) => id)) });
  await manager.delete(Log, { id: In(rows.map(({ id }) => id)) });
  await writeChannels(manager, programmeId, channels);
}

/** Takes added files out again where that was the programme's last change. @throws GezeitError `changed-since`. */
export async function undoAddedLast(database: Database, programmeId: string): Promise<void> {
  await database.write(async (manager) => {
    const [last] = await manager.find(Change, { where: { programmeId, undone: false }, order: { id: 'DESC' }, take: 1 });
    if (last?.kind !== 'files-added')
      throw conflict(
        'changed-since',
        'The programme was changed since these files were added.',
        'Undo what came after first: press z there.',
      );
    await undoAdded(manager, last);
    await manager.update(Change, { id: last.id }, { undone: true });
  });
}
