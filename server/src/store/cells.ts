import { randomUUID } from 'node:crypto';
import { cellSchema, type Cell as CellFields, type Vehicle as VehicleFields } from '@gezeit/contract';
import type { EntityManager } from 'typeorm';
import { Cell, ProgrammeCell, Vehicle } from '../database/entities.js';

/** A cell of a programme, with its key there. */
export interface CellLink {
  cellId: string;
  key: string | null;
}

/** The cells of a programme in order, each with its key in it. */
export async function cellsOf(manager: EntityManager, programmeId: string): Promise<{ id: string; cell: CellFields }[]> {
  const links = await manager.find(ProgrammeCell, { where: { programmeId }, order: { position: 'ASC' } });
  return Promise.all(
    links.map(async ({ cellId, key }) => {
      const { body } = await manager.findOneByOrFail(Cell, { id: cellId });
      return { id: cellId, cell: cellSchema.parse({ ...(key === null ? {} : { id: key }), ...(JSON.parse(body) as object) }) };
    }),
  );
}

/** The id of a cell that is the same in every field; a new one where there is none. */
export async function sharedCell(manager: EntityManager, { id: _key, ...cell }: CellFields): Promise<string> {
  const body = JSON.stringify(cell);
  const known = await manager.findOneBy(Cell, { name: cell.name, body });
  if (known) return known.id;
  return addCell(manager, cell);
}

/** Makes these the cells of a programme, in this order. */
export async function linkCells(manager: EntityManager, programmeId: string, links: readonly CellLink[]): Promise<void> {
  await manager.delete(ProgrammeCell, { programmeId });
  for (const [position, { cellId, key }] of links.entries())
    await manager.insert(ProgrammeCell, { id: randomUUID(), programmeId, cellId, position, key });
}

/** A cell of its own, whatever others there are. */
export async function addCell(manager: EntityManager, { id: _key, ...cell }: CellFields): Promise<string> {
  const id = randomUUID();
  await manager.insert(Cell, { id, name: cell.name, body: JSON.stringify(cell) });
  return id;
}

/** A car of its own, whatever others there are. */
export async function addVehicle(manager: EntityManager, vehicle: VehicleFields): Promise<string> {
  const id = randomUUID();
  await manager.insert(Vehicle, { id, name: vehicle.name, body: JSON.stringify(vehicle) });
  return id;
}
