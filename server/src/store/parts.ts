import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import {
  EDITABLE_PARTS,
  type Bundle,
  type Cell as CellFields,
  type EditablePart,
  type PartValue,
  type Setup as SetupFields,
} from '@gezeit/contract';
import { conflict, GezeitError, missing } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { Cell, Programme, Pull, Setup, Vehicle, type ChangeRow, type ProgrammeRow } from '../database/entities.js';
import { cellsOf, linkCells } from './cells.js';
import { findProgramme, loadBundleOf } from './load-bundle.js';

type Values = { [P in EditablePart]: PartValue<P> };

/** What a part of a programme holds, of which row and bundle are at hand. */
export async function readPart(manager: EntityManager, row: ProgrammeRow, bundle: Bundle, part: EditablePart): Promise<unknown> {
  if (part === 'vehicleId') return row.vehicleId;
  if (part !== 'cellIds' && part !== 'cells') return bundle[part] ?? null;
  const cells = await cellsOf(manager, row.id);
  return part === 'cellIds' ? cells.map(({ id }) => id) : cells.map(({ cell }) => cell);
}

/** Puts a part's new value in place; what it holds has passed its schema. */
export async function writePart<P extends EditablePart>(
  manager: EntityManager,
  programmeId: string,
  part: P,
  value: PartValue<P>,
): Promise<void> {
  await (WRITERS[part] as (manager: EntityManager, programmeId: string, value: PartValue<P>) => Promise<void>)(manager, programmeId, value);
}

/** What a programme's row holds beside its setups, pulls, car and cells. */
export interface StoredBody {
  programme: Bundle['programme'];
  single: boolean;
  rest: Record<string, unknown>;
}

/** Changes what a programme's row holds. */
export async function changeBody(manager: EntityManager, programmeId: string, change: (body: StoredBody) => void): Promise<void> {
  const row = await findProgramme(manager, programmeId);
  const body = JSON.parse(row.body) as StoredBody;
  change(body);
  await manager.update(Programme, { id: programmeId }, { body: JSON.stringify(body), title: body.programme.title });
}

const inRest = (part: EditablePart) => (manager: EntityManager, programmeId: string, value: unknown) =>
  changeBody(manager, programmeId, ({ rest }) => {
    if (value === null) delete rest[part];
    else rest[part] = value;
  });

const WRITERS: { [P in EditablePart]: (manager: EntityManager, programmeId: string, value: Values[P]) => Promise<void> } = {
  programme: (manager, programmeId, value) =>
    changeBody(manager, programmeId, (body) => {
      body.programme = value;
    }),
  async vehicle(manager, programmeId, value) {
    const { vehicleId } = await findProgramme(manager, programmeId);
    await manager.update(Vehicle, { id: vehicleId }, { name: value.name, body: JSON.stringify(value) });
  },
  async vehicleId(manager, programmeId, value) {
    if (!(await manager.existsBy(Vehicle, { id: value }))) throw missing('There is no such car.', 'Choose one of the list.');
    await manager.update(Programme, { id: programmeId }, { vehicleId: value });
  },
  async cells(manager, programmeId, value) {
    const known = await cellsOf(manager, programmeId);
    if (value.length !== known.length)
      throw new GezeitError('bad-request', 'Cells are added and taken away by choosing them.', 'Choose the cells again.');
    for (const [i, cell] of value.entries()) await writeCell(manager, known[i]!.id, cell);
    await linkCells(
      manager,
      programmeId,
      known.map(({ id }, i) => ({ cellId: id, key: value[i]!.id ?? null })),
    );
  },
  async cellIds(manager, programmeId, value) {
    const known = await cellsOf(manager, programmeId);
    for (const id of value) if (!(await manager.existsBy(Cell, { id }))) throw missing('There is no such cell.', 'Choose one of the list.');
    const taken = new Set(known.map(({ cell }) => cell.id));
    const freshKey = () => {
      let i = 1;
      while (taken.has(`c${i}`)) i += 1;
      taken.add(`c${i}`);
      return `c${i}`;
    };
    const several = value.length > 1;
    const links = value.map((cellId) => {
      const own = known.find(({ id }) => id === cellId);
      return { cellId, key: own?.cell.id ?? (several ? freshKey() : null) };
    });
    await linkCells(manager, programmeId, links);
  },
  async setups(manager, programmeId, value) {
    const gone = await missingSetupsWithPulls(manager, programmeId, value);
    if (gone) throw new GezeitError('setup-has-pulls', `Setup ${gone} has pulls.`, 'Archive it instead: its pulls stay.');
    await manager.delete(Setup, { programmeId });
    for (const [position, setup] of value.entries())
      await manager.insert(Setup, { id: randomUUID(), programmeId, position, key: setup.id, body: JSON.stringify(setup) });
  },
  condition: inRest('condition'),
  bench: inRest('bench'),
  days: inRest('days'),
  plan: inRest('plan'),
  assumptions: inRest('assumptions'),
  channels: inRest('channels'),
  traceViews: inRest('traceViews'),
};

async function writeCell(manager: EntityManager, id: string, { id: _key, ...cell }: CellFields): Promise<void> {
  await manager.update(Cell, { id }, { name: cell.name, body: JSON.stringify(cell) });
}

async function missingSetupsWithPulls(manager: EntityManager, programmeId: string, setups: SetupFields[]): Promise<string | null> {
  const kept = new Set(setups.map(({ id }) => id));
  const pulls = await manager.find(Pull, { where: { programmeId }, select: { body: true } });
  const used = pulls.map(({ body }) => (JSON.parse(body) as { setup: string }).setup);
  return used.find((id) => !kept.has(id)) ?? null;
}

/** Takes an edit back. @throws GezeitError `changed-meanwhile` where another programme has changed the shared car or cell since. */
export async function undoEdit(manager: EntityManager, change: ChangeRow): Promise<void> {
  const part = change.part!;
  const row = await findProgramme(manager, change.programmeId);
  const now = await readPart(manager, row, await loadBundleOf(manager, row), part);
  const after = EDITABLE_PARTS[part].parse(JSON.parse(change.after)) as unknown;
  if (!sameValue(part, now, after)) {
    const next = 'Change it by hand, or undo it in the other programme first.';
    throw conflict('changed-meanwhile', 'This was changed in another programme since.', next);
  }
  await writePart(manager, change.programmeId, part, EDITABLE_PARTS[part].parse(JSON.parse(change.before)) as never);
}

/** Whether two values of a part are the same once both have passed its schema. */
export function sameValue(part: EditablePart, a: unknown, b: unknown): boolean {
  const plain = (value: unknown) => {
    const parsed = EDITABLE_PARTS[part].safeParse(value);
    return parsed.success ? (JSON.parse(JSON.stringify(parsed.data)) as unknown) : undefined;
  };
  return isDeepStrictEqual(plain(a), plain(b));
}
