import { cellSchema, vehicleSchema, type CellEntry, type VehicleEntry } from '@gezeit/contract';
import { UNNAMED_CAR, UNNAMED_CELL } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { Cell, Programme, Vehicle } from '../database/entities.js';

interface Named {
  id: string;
  title: string;
}

/** Every car that has a name, with the programmes on it. */
export async function listVehicles(manager: EntityManager): Promise<VehicleEntry[]> {
  const vehicles = await manager.find(Vehicle, { order: { name: 'ASC' } });
  const rows = await manager.find(Programme, {
    where: { superseded: false },
    order: { createdAt: 'ASC' },
    select: { id: true, title: true, vehicleId: true },
  });
  return vehicles
    .filter(({ name }) => name !== UNNAMED_CAR)
    .map(({ id, body }) => ({
      id,
      vehicle: vehicleSchema.parse(JSON.parse(body)),
      programmes: rows.filter(({ vehicleId }) => vehicleId === id).map(named),
    }));
}

/** Every cell that has a name, with the programmes in it. */
export async function listCells(manager: EntityManager): Promise<CellEntry[]> {
  const cells = await manager.find(Cell, { order: { name: 'ASC' } });
  const links = await inCells(manager);
  return cells
    .filter(({ name }) => name !== UNNAMED_CELL)
    .map(({ id, body }) => ({
      id,
      cell: cellSchema.parse(JSON.parse(body)),
      programmes: links.filter(({ cellId }) => cellId === id).map(named),
    }));
}

export async function programmesOnVehicle(manager: EntityManager, vehicleId: string): Promise<Named[]> {
  const rows = await manager.find(Programme, {
    where: { vehicleId, superseded: false },
    order: { createdAt: 'ASC' },
    select: { id: true, title: true },
  });
  return rows.map(named);
}

export async function programmesInCell(manager: EntityManager, cellId: string): Promise<Named[]> {
  return (await inCells(manager, cellId)).map(named);
}

/** Which programmes are in which cell; of one cell, or of all. */
function inCells(manager: EntityManager, only: string | null = null): Promise<(Named & { cellId: string })[]> {
  return manager.query(
    `SELECT l.cellId, p.id, p.title FROM programme_cell l JOIN programme p ON p.id = l.programmeId
     WHERE NOT p.superseded ${only === null ? '' : 'AND l.cellId = ?'} ORDER BY p.createdAt`,
    only === null ? [] : [only],
  );
}

const named = ({ id, title }: Named): Named => ({ id, title });
