import { In, type EntityManager } from 'typeorm';
import { Change, DayEventEntity, Programme, ProgrammeCell } from '../database/entities.js';
import { findProgramme } from './load-bundle.js';

/**
 * What changes with everything that is stored of a programme, its car and its cells: the newest change of those that share them, how many
 * are taken back, and the newest happening of its day. Cheap enough to be asked for every second.
 * @throws GezeitError `not-found`.
 */
export async function stampOf(manager: EntityManager, id: string): Promise<string> {
  const { vehicleId, archived, superseded } = await findProgramme(manager, id);
  const onVehicle = await manager.find(Programme, { where: { vehicleId }, select: { id: true } });
  const cells = await manager.find(ProgrammeCell, { where: { programmeId: id }, select: { cellId: true } });
  const inCells = await manager.find(ProgrammeCell, {
    where: { cellId: In(cells.map(({ cellId }) => cellId)) },
    select: { programmeId: true },
  });
  const programmeId = In([...new Set([...onVehicle.map((row) => row.id), ...inCells.map((row) => row.programmeId)])]);
  const [newest, undone, happened] = await Promise.all([
    manager.maximum(Change, 'id', { programmeId }),
    manager.count(Change, { where: { programmeId, undone: true } }),
    manager.maximum(DayEventEntity, 'position', { programmeId: id }),
  ]);
  return [newest ?? 0, undone, happened ?? 0, Number(archived), Number(superseded)].join('.');
}
