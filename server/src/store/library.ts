import {
  cellSchema,
  vehicleSchema,
  type Bundle,
  type CellEntry,
  type PartHistory,
  type SearchHit,
  type VehicleEntry,
} from '@gezeit/contract';
import { UNNAMED_CAR, UNNAMED_CELL } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { AttachmentEntity, Cell, Log, Programme, ProgrammeCell, Vehicle } from '../database/entities.js';
import { evidenceOf } from './evidence.js';
import { loadBundle } from './load-bundle.js';

/** Every car that has a name, with the programmes on it. */
export async function listVehicles(manager: EntityManager): Promise<VehicleEntry[]> {
  const vehicles = await manager.find(Vehicle, { order: { name: 'ASC' } });
  const named = vehicles.filter(({ name }) => name !== UNNAMED_CAR);
  return Promise.all(
    named.map(async ({ id, body }) => ({
      id,
      vehicle: vehicleSchema.parse(JSON.parse(body)),
      programmes: await programmesOnVehicle(manager, id),
    })),
  );
}

/** Every cell that has a name, with the programmes in it. */
export async function listCells(manager: EntityManager): Promise<CellEntry[]> {
  const cells = await manager.find(Cell, { order: { name: 'ASC' } });
  const named = cells.filter(({ name }) => name !== UNNAMED_CELL);
  return Promise.all(
    named.map(async ({ id, body }) => ({ id, cell: cellSchema.parse(JSON.parse(body)), programmes: await programmesInCell(manager, id) })),
  );
}

export async function programmesOnVehicle(manager: EntityManager, vehicleId: string): Promise<{ id: string; title: string }[]> {
  const rows = await manager.find(Programme, { where: { vehicleId, superseded: false }, order: { createdAt: 'ASC' } });
  return rows.map(({ id, title }) => ({ id, title }));
}

export async function programmesInCell(manager: EntityManager, cellId: string): Promise<{ id: string; title: string }[]> {
  const links = await manager.findBy(ProgrammeCell, { cellId });
  const rows = await Promise.all(links.map(({ programmeId }) => manager.findOneBy(Programme, { id: programmeId, superseded: false })));
  return rows.filter((row) => row !== null).map(({ id, title }) => ({ id, title }));
}

interface OpenProgramme {
  id: string;
  title: string;
  bundle: Bundle;
}

async function allProgrammes(manager: EntityManager): Promise<OpenProgramme[]> {
  const rows = await manager.find(Programme, { where: { superseded: false }, order: { createdAt: 'ASC' } });
  return Promise.all(rows.map(async ({ id, title }) => ({ id, title, bundle: await loadBundle(manager, id) })));
}

/** Part lines with their revisions and specimens, and where each specimen has been. */
export async function listParts(manager: EntityManager): Promise<PartHistory[]> {
  const lines = new Map<string, PartHistory>();
  for (const { id, title, bundle } of await allProgrammes(manager)) {
    for (const setup of bundle.setups) {
      const pulls = bundle.pulls.filter((pull) => pull.setup === setup.id);
      for (const detail of setup.partDetails ?? []) {
        const name = detail.line ?? detail.part;
        const line = lines.get(name) ?? { line: name, revisions: [] };
        lines.set(name, line);
        let revision = line.revisions.find((entry) => entry.part === detail.part && entry.revision === (detail.revision ?? null));
        if (!revision) {
          const { part, revision: number = null, follows = null, stage = null, material = null } = detail;
          revision = { part, revision: number, follows, stage, material, specimens: [] };
          line.revisions.push(revision);
        }
        let specimen = revision.specimens.find(({ serial }) => serial === (detail.serial ?? null));
        if (!specimen) {
          specimen = { serial: detail.serial ?? null, cars: [], programmes: [], pulls: 0, distanceKm: null };
          revision.specimens.push(specimen);
        }
        if (!specimen.cars.includes(bundle.vehicle.name)) specimen.cars.push(bundle.vehicle.name);
        specimen.programmes.push({ id, title, setup: setup.id });
        specimen.pulls += pulls.length;
        const distance = distanceKm(bundle, new Set(pulls.map((pull) => pull.day ?? pull.startedAt.slice(0, 10))));
        if (distance !== null) specimen.distanceKm = (specimen.distanceKm ?? 0) + distance;
      }
    }
  }
  return [...lines.values()].map((line) => ({ ...line, revisions: inLine(line.revisions) }));
}

/** Revisions in the order in which they follow each other. */
function inLine<T extends { revision: string | null; follows: string | null }>(revisions: T[]): T[] {
  const depth = (entry: T, seen = new Set<T>()): number => {
    const before = revisions.find((other) => other !== entry && other.revision !== null && other.revision === entry.follows);
    if (!before || seen.has(before)) return 0;
    return 1 + depth(before, seen.add(entry));
  };
  return [...revisions].sort(
    (a, b) => depth(a) - depth(b) || String(a.revision).localeCompare(String(b.revision), 'en', { numeric: true }),
  );
}

function distanceKm(bundle: Bundle, days: Set<string>): number | null {
  const readings = (bundle.days ?? []).flatMap(({ day, odometerKm }) => (days.has(day) && odometerKm != null ? [odometerKm] : []));
  return readings.length < 2 ? null : Math.max(...readings) - Math.min(...readings);
}

const MOST_HITS = 40;

/** Programmes, parts, files and notes that hold every word of a question, upper or lower case. */
export async function search(manager: EntityManager, question: string): Promise<SearchHit[]> {
  const words = question.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  const holds = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  const hits: SearchHit[] = [];
  for (const { id, title, bundle } of await allProgrammes(manager)) {
    const hit = (kind: SearchHit['kind'], step: SearchHit['step'], text: string) =>
      hits.push({ kind, programmeId: id, programme: title, text, step });
    if (holds(`${title} ${bundle.programme.question} ${bundle.vehicle.name}`))
      hit('programme', 'question', `${title} · ${bundle.vehicle.name}`);
    for (const part of new Set(bundle.setups.flatMap(({ parts }) => parts))) {
      const detail = bundle.setups.flatMap(({ partDetails }) => partDetails ?? []).find((entry) => entry.part === part);
      const text = [part, detail?.material, detail?.serial && `serial ${detail.serial}`].filter(Boolean).join(', ');
      if (holds(text)) hit('part', 'question', text);
    }
    for (const { file } of await manager.find(Log, { where: { programmeId: id }, select: { file: true }, order: { file: 'ASC' } }))
      if (holds(file)) hit('file', 'logs', file);
    const attachments = await manager.find(AttachmentEntity, { where: { programmeId: id, removed: false }, order: { file: 'ASC' } });
    for (const { file } of attachments) if (holds(file)) hit('file', 'bench', file);
    for (const { title: name, note, sentence } of await evidenceOf(manager, id))
      if (holds(`${name} ${note}`)) hit('note', 'bench', `${name}: ${note || sentence}`);
    for (const { id: pull, note } of bundle.pulls) if (note && holds(note)) hit('note', 'logs', `${pull}: ${note}`);
    for (const { note } of bundle.condition ?? []) if (note && holds(note)) hit('note', 'question', note);
    for (const section of bundle.setups.flatMap(({ path }) => path ?? []))
      for (const { text } of section.findings)
        if (text && holds(`${section.name} ${text}`)) hit('note', 'bench', `${section.name}: ${text}`);
  }
  return hits.slice(0, MOST_HITS);
}
