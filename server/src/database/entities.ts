import type { ChangeKind, EditablePart } from '@gezeit/contract';
import { EntitySchema } from 'typeorm';

/** One version of a programme. What the exchange format says of it, unknown fields included, stands in `body` (JSON). */
export interface ProgrammeRow {
  id: string;
  /** Shared by all versions of one programme. */
  lineage: string;
  version: number;
  title: string;
  vehicleId: string;
  /** SHA-256 of the bundle as imported: the same bundle opens the programme instead of being stored twice. */
  bundleDigest: string;
  superseded: boolean;
  archived: boolean;
  body: string;
  createdAt: string;
  createdBy: string;
}

export interface VehicleRow {
  id: string;
  name: string;
  body: string;
}

/** A cell, shared by programmes; its key inside a programme stands in the link. */
export interface CellRow {
  id: string;
  name: string;
  body: string;
}

export interface ProgrammeCellRow {
  id: string;
  programmeId: string;
  cellId: string;
  position: number;
  /** The cell's `id` in the exchange format, where it has one. */
  key: string | null;
}

/** A result of the bench that was kept. */
export interface EvidenceRow {
  id: string;
  programmeId: string;
  key: string;
  removed: boolean;
  body: string;
}

/** Answers that were fixed; the body is the file that it is in a bundle, byte for byte. */
export interface FixedFindingRow {
  id: string;
  programmeId: string;
  key: string;
  removed: boolean;
  at: string;
  by: string;
  why: string;
  /** Digests of what it was made from, as JSON: looked at without the body. */
  inputs: string;
  digest: string;
  body: string;
}

/** A file of a bundle beside its description, logs and evidence: a photo, a sheet, notes. */
export interface AttachmentRow {
  id: string;
  programmeId: string;
  file: string;
  mediaType: string;
  sha256: string;
  byteCount: number;
  removed: boolean;
  compressed: Buffer;
}

export interface SetupRow {
  id: string;
  programmeId: string;
  position: number;
  key: string;
  body: string;
}

export interface DayRow {
  id: string;
  programmeId: string;
  name: string;
}

export interface PullRow {
  id: string;
  programmeId: string;
  dayId: string;
  position: number;
  key: string;
  startedAt: string;
  /** JSON of the exchange format's `excluded`. */
  excluded: string;
  body: string;
}

/** An original log file, byte for byte, compressed. */
export interface LogRow {
  id: string;
  programmeId: string;
  file: string;
  device: string;
  sha256: string;
  byteCount: number;
  rowCount: number;
  compressed: Buffer;
  /** What was taken for what (JSON). */
  report: string;
}

/** One column of a log as little-endian Float64, in the unit kept inside; position 0 is the time where the log has one. */
export interface TraceRow {
  id: string;
  logId: string;
  position: number;
  name: string;
  quantity: string | null;
  unitText: string | null;
  section: string | null;
  corrected: string | null;
  gauge: boolean;
  samples: Buffer;
}

/** Something that was computed of a programme and is kept: a measured pull, findings, curves; each by the digest of its own inputs. */
export interface ProductRow {
  programmeId: string;
  kind: string;
  digest: string;
  /** The product, as the runtime serialises it. */
  body: Buffer;
  createdAt: string;
}

/** What was decided about a device's columns, by a name; `body` as the exchange format has it (JSON). */
export interface DeviceProfileRow {
  id: string;
  name: string;
  body: string;
  savedAt: string;
  savedBy: string;
}

/** A change that can be undone: who, when, what it was and became. */
export interface ChangeRow {
  id: number;
  programmeId: string;
  at: string;
  by: string;
  kind: ChangeKind;
  subject: string;
  /** Of an edit the part that it changed, else null. */
  part: EditablePart | null;
  before: string;
  after: string;
  undone: boolean;
}

/** One thing that happened on a day. */
export interface DayEventRow {
  position: number;
  id: string;
  programmeId: string;
  /** The visit to the cell that it belongs to. */
  run: string;
  at: string;
  by: string;
  body: string;
}

/** A device that a programme's days listen to, and what it must remember over a restart. */
export interface DayDeviceRow {
  id: string;
  programmeId: string;
  key: string;
  body: string;
  memory: string;
}

const uuid = { type: 'varchar', primary: true } as const;
const text = { type: 'text' } as const;
const owned = (target: string, joinColumn: string) =>
  ({ type: 'many-to-one', target, onDelete: 'CASCADE', joinColumn: { name: joinColumn } }) as const;

export const Programme = new EntitySchema<ProgrammeRow>({
  name: 'programme',
  columns: {
    id: uuid,
    lineage: text,
    version: { type: 'integer' },
    title: text,
    vehicleId: { type: 'varchar' },
    bundleDigest: text,
    superseded: { type: 'boolean' },
    archived: { type: 'boolean', default: false },
    body: text,
    createdAt: text,
    createdBy: text,
  },
  relations: { vehicle: { type: 'many-to-one', target: 'vehicle', joinColumn: { name: 'vehicleId' } } } as never,
  indices: [{ columns: ['bundleDigest'] }, { columns: ['lineage'] }, { name: 'programme_by_vehicle', columns: ['vehicleId'] }],
});

export const Vehicle = new EntitySchema<VehicleRow>({ name: 'vehicle', columns: { id: uuid, name: text, body: text } });

export const Cell = new EntitySchema<CellRow>({ name: 'cell', columns: { id: uuid, name: text, body: text } });

export const ProgrammeCell = new EntitySchema<ProgrammeCellRow>({
  name: 'programme_cell',
  columns: {
    id: uuid,
    programmeId: { type: 'varchar' },
    cellId: { type: 'varchar' },
    position: { type: 'integer' },
    key: { type: 'text', nullable: true },
  },
  relations: {
    programme: owned('programme', 'programmeId'),
    cell: { type: 'many-to-one', target: 'cell', joinColumn: { name: 'cellId' } },
  } as never,
  indices: [
    { name: 'programme_cell_by_programme', columns: ['programmeId'] },
    { name: 'programme_cell_by_cell', columns: ['cellId'] },
  ],
});

export const EvidenceEntity = new EntitySchema<EvidenceRow>({
  name: 'evidence',
  columns: { id: uuid, programmeId: { type: 'varchar' }, key: text, removed: { type: 'boolean' }, body: text },
  relations: { programme: owned('programme', 'programmeId') } as never,
  indices: [{ columns: ['programmeId', 'key'], unique: true }],
});

export const FixedFindingEntity = new EntitySchema<FixedFindingRow>({
  name: 'fixed_finding',
  columns: {
    id: uuid,
    programmeId: { type: 'varchar' },
    key: text,
    removed: { type: 'boolean' },
    at: text,
    by: text,
    why: text,
    inputs: text,
    digest: text,
    body: text,
  },
  relations: { programme: owned('programme', 'programmeId') } as never,
  indices: [{ columns: ['programmeId', 'key'], unique: true }],
});

export const AttachmentEntity = new EntitySchema<AttachmentRow>({
  name: 'attachment',
  columns: {
    id: uuid,
    programmeId: { type: 'varchar' },
    file: text,
    mediaType: text,
    sha256: text,
    byteCount: { type: 'integer' },
    removed: { type: 'boolean' },
    compressed: { type: 'blob', select: false },
  },
  relations: { programme: owned('programme', 'programmeId') } as never,
  indices: [{ columns: ['programmeId', 'file'], unique: true }],
});

export const Setup = new EntitySchema<SetupRow>({
  name: 'setup',
  columns: { id: uuid, programmeId: { type: 'varchar' }, position: { type: 'integer' }, key: text, body: text },
  relations: { programme: owned('programme', 'programmeId') } as never,
  indices: [{ name: 'setup_by_programme', columns: ['programmeId'] }],
});

export const Day = new EntitySchema<DayRow>({
  name: 'day',
  columns: { id: uuid, programmeId: { type: 'varchar' }, name: text },
  relations: { programme: owned('programme', 'programmeId') } as never,
  indices: [{ name: 'day_by_programme', columns: ['programmeId'] }],
});

export const Pull = new EntitySchema<PullRow>({
  name: 'pull',
  columns: {
    id: uuid,
    programmeId: { type: 'varchar' },
    dayId: { type: 'varchar' },
    position: { type: 'integer' },
    key: text,
    startedAt: text,
    excluded: text,
    body: text,
  },
  relations: { programme: owned('programme', 'programmeId'), day: owned('day', 'dayId') } as never,
  indices: [
    { columns: ['programmeId', 'key'], unique: true },
    { name: 'pull_by_day', columns: ['dayId'] },
  ],
});

export const Log = new EntitySchema<LogRow>({
  name: 'log',
  columns: {
    id: uuid,
    programmeId: { type: 'varchar' },
    file: text,
    device: text,
    sha256: text,
    byteCount: { type: 'integer' },
    rowCount: { type: 'integer' },
    compressed: { type: 'blob', select: false },
    report: text,
  },
  relations: { programme: owned('programme', 'programmeId') } as never,
  indices: [{ columns: ['programmeId', 'file'], unique: true }],
});

export const Trace = new EntitySchema<TraceRow>({
  name: 'trace',
  columns: {
    id: uuid,
    logId: { type: 'varchar' },
    position: { type: 'integer' },
    name: text,
    quantity: { type: 'text', nullable: true },
    unitText: { type: 'text', nullable: true },
    section: { type: 'text', nullable: true },
    corrected: { type: 'text', nullable: true },
    gauge: { type: 'boolean' },
    samples: { type: 'blob', select: false },
  },
  relations: { log: owned('log', 'logId') } as never,
  indices: [{ columns: ['logId', 'position'], unique: true }],
});

export const Product = new EntitySchema<ProductRow>({
  name: 'product',
  columns: {
    programmeId: { type: 'varchar', primary: true },
    kind: { type: 'varchar', primary: true },
    digest: { type: 'varchar', primary: true },
    body: { type: 'blob' },
    createdAt: text,
  },
  relations: { programme: owned('programme', 'programmeId') } as never,
  indices: [{ name: 'product_by_kind', columns: ['kind'] }],
});

export const DeviceProfileEntity = new EntitySchema<DeviceProfileRow>({
  name: 'device_profile',
  columns: { id: { type: 'varchar', primary: true }, name: text, body: text, savedAt: text, savedBy: text },
});

export const Change = new EntitySchema<ChangeRow>({
  name: 'change',
  columns: {
    id: { type: 'integer', primary: true, generated: 'increment' },
    programmeId: { type: 'varchar' },
    at: text,
    by: text,
    kind: text,
    subject: text,
    before: text,
    after: text,
    undone: { type: 'boolean' },
    part: { type: 'text', nullable: true },
  },
  relations: { programme: owned('programme', 'programmeId') } as never,
  indices: [{ name: 'change_by_programme', columns: ['programmeId', 'undone'] }],
});

export const DayEventEntity = new EntitySchema<DayEventRow>({
  name: 'day_event',
  columns: {
    position: { type: 'integer', primary: true, generated: 'increment' },
    id: { type: 'varchar' },
    programmeId: { type: 'varchar' },
    run: { type: 'varchar' },
    at: text,
    by: text,
    body: text,
  },
  relations: { programme: owned('programme', 'programmeId') } as never,
  indices: [{ columns: ['programmeId', 'id'], unique: true }],
});

export const DayDeviceEntity = new EntitySchema<DayDeviceRow>({
  name: 'day_device',
  columns: { id: uuid, programmeId: { type: 'varchar' }, key: text, body: text, memory: text },
  relations: { programme: owned('programme', 'programmeId') } as never,
  indices: [{ columns: ['programmeId', 'key'], unique: true }],
});

export const ENTITIES = [
  Programme,
  Vehicle,
  Cell,
  ProgrammeCell,
  Setup,
  Day,
  Pull,
  Log,
  Trace,
  Product,
  DeviceProfileEntity,
  Change,
  EvidenceEntity,
  AttachmentEntity,
  FixedFindingEntity,
  DayEventEntity,
  DayDeviceEntity,
];
