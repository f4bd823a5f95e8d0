import { randomUUID } from 'node:crypto';
import { cellSchema, vehicleSchema, type Bundle, type Findings } from '@gezeit/contract';
import { draftProgramme, leadingEstimate, missing } from '@gezeit/core';
import type { Aspiration } from '@gezeit/contract';
import type { EntityManager } from 'typeorm';
import type { Database } from '../database/database.js';
import { Cell, Vehicle } from '../database/entities.js';
import { addCell, addVehicle, cellsOf, type CellLink } from './cells.js';
import { findProgramme, loadBundle } from './load-bundle.js';
import { storeBundle } from './store-bundle.js';

export interface NewProgramme {
  title: string;
  aspiration: Aspiration;
  vehicleId?: string | null;
  cellId?: string | null;
}

/** Begins a programme: a draft with defaults, on a car and in a cell where they are chosen. Returns its id. */
export async function createProgramme(database: Database, input: NewProgramme, by: string): Promise<string> {
  return database.write(async (manager) => {
    const vehicle = input.vehicleId ? await manager.findOneBy(Vehicle, { id: input.vehicleId }) : null;
    const cell = input.cellId ? await manager.findOneBy(Cell, { id: input.cellId }) : null;
    if ((input.vehicleId && !vehicle) || (input.cellId && !cell)) throw missing('The car or cell is gone.', 'Choose again.');
    const draft = draftProgramme({
      title: input.title,
      aspiration: input.aspiration,
      vehicle: vehicle && vehicleSchema.parse(JSON.parse(vehicle.body)),
      cell: cell && cellSchema.parse({ id: 'c1', ...(JSON.parse(cell.body) as object) }),
    });
    const cellId = cell?.id ?? (await addCell(manager, draft.cells![0]!));
    return store(manager, draft, by, vehicle?.id ?? (await addVehicle(manager, draft.vehicle)), [{ cellId, key: 'c1' }]);
  });
}

/** Begins a programme that repeats an old one: setups, questions and plan copied, no pulls, the old answers kept beside. Returns its id. */
export async function revalidate(database: Database, programmeId: string, findings: Findings, by: string): Promise<string> {
  return database.write(async (manager) => {
    const row = await findProgramme(manager, programmeId);
    const old = await loadBundle(manager, programmeId);
    const nameOf = (id: string) => old.setups.find((setup) => setup.id === id)?.name ?? id;
    const { condition, days, ...rest } = old;
    const fresh = <T extends object>(entry: T) => ({ ...entry, afterwards: null });
    const next: Bundle = {
      ...rest,
      programme: {
        ...old.programme,
        title: `${old.programme.title}, re-validation`,
        questions: old.programme.questions?.map((question) => ({ ...fresh(question), evidence: null })) ?? null,
        claims: old.programme.claims?.map(fresh) ?? null,
        changedAfterwards: null,
        expected: null,
        revalidates: {
          programme: programmeId,
          title: old.programme.title,
          at: new Date().toISOString(),
          answers: findings.comparisons.map((comparison) => {
            const quoted = leadingEstimate(comparison);
            return {
              candidate: comparison.candidate,
              candidateName: nameOf(comparison.candidate),
              power: comparison.verdict.power,
              pct: quoted?.pct ?? null,
              low: quoted?.low ?? null,
              high: quoted?.high ?? null,
            };
          }),
        },
      },
      setups: old.setups.filter(({ archived }) => !archived).map(fresh),
      pulls: [],
    };
    const cells = (await cellsOf(manager, programmeId)).map(({ id, cell }) => ({ cellId: id, key: cell.id ?? null }));
    return store(manager, next, by, row.vehicleId, cells);
  });
}

async function store(manager: EntityManager, bundle: Bundle, by: string, vehicleId: string, cells: CellLink[]): Promise<string> {
  const none = new Map<string, never>();
  // Not made from a bundle that could come again: a digest of its own.
  const digest = randomUUID();
  const own = { evidence: [], tables: none, originals: none, attachments: none, lineage: null, version: 1 };
  return storeBundle(manager, { bundle, digest, by, vehicleId, cells, ...own });
}
