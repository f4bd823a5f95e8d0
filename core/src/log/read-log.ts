import type { ChannelMapping, Correction, Quantity } from '@gezeit/contract';
import { GezeitError } from '../errors.js';
import { toSi, UNITS, unitFromText, type UnitName } from '../units/units.js';
import { readBody, type ColumnKind } from './body.js';
import { decodeText } from './decode.js';
import { findLayout } from './layout.js';
import { quantityFromName, QUANTITY_UNITS, sectionFromName, splitHeader } from './recognise.js';
import { timeAxis, type TimeAxis, type TimeCandidate } from './time-axis.js';

/** A column of a log. Values are in the unit kept inside where the quantity is known, else as written; NaN where nothing was logged. */
export interface LogColumn {
  name: string;
  quantity: Quantity | null;
  unitText: string | null;
  section: string | null;
  corrected: Correction | null;
  /** A pressure against ambient, Pa; false for absolute ones. */
  gauge: boolean;
  values: Float64Array;
}

/** What a column was taken for, and what was assumed for it. */
export interface ColumnReport {
  name: string;
  takenFor: Quantity | null;
  unit: string | null;
  note: string | null;
}

export interface ReadReport {
  encoding: string;
  delimiter: string;
  decimalMark: 'point' | 'comma';
  headerRow: number;
  unitsRow: number | null;
  firstDataRow: number;
  rowCount: number;
  preamble: string[];
  remarks: string[];
  timeColumn: string | null;
  columns: ColumnReport[];
  notes: string[];
}

export interface LogTable {
  file: string;
  device: string;
  /** Seconds on the logger's own clock; null for a curve over engine speed. */
  timeS: Float64Array | null;
  columns: LogColumn[];
  rowCount: number;
  report: ReadReport;
}

export interface ReadOptions {
  file: string;
  device?: string;
  /** Mapping by column name where the header is not enough. */
  channels?: Record<string, ChannelMapping> | null;
}

/** The ratio that a device divides by to show an air-fuel ratio, where nothing else is said; assumption. */
export const DEFAULT_AFR_STOICH = 14.7;

/**
 * Reads a log: bytes to recognised columns of Float64, with a report of what was taken for what.
 * @throws GezeitError with file, row and column where the input is empty, binary, cut off, no table, or contradicts itself.
 */
export function readLog(bytes: Uint8Array, { file, device = '', channels }: ReadOptions): LogTable {
  const decoded = decodeText(bytes, file);
  const layout = findLayout(decoded.text, file);
  const body = readBody(decoded.text, layout, file);
  if (body.rowCount === 0) throw new GezeitError('empty-file', 'The table has a header but no rows.', 'Export the log again.', { file });
  const raw = layout.names.map((header, index) => ({
    header,
    unitRow: layout.units[index] ?? '',
    kind: body.kinds[index]!,
    values: body.values[index]!,
  }));
  const notes: string[] = [];
  const named = withoutRepeats(
    raw.map((column) => takenApart(column, channels ?? {})),
    notes,
  );
  const times: TimeCandidate[] = [];
  const columns: LogColumn[] = [];
  const reports: ColumnReport[] = [];
  for (const column of named) {
    const { column: log, report } = recognised(column);
    reports.push(report);
    if (report.takenFor === 'time')
      times.push({ name: column.name, values: column.values, unit: column.unit, clock: column.kind === 'clock' });
    else if (column.kind !== 'text') columns.push(log);
  }
  keepFirstOfEach(columns, reports, notes);
  const engineSpeed = columns.find((column) => column.quantity === 'engineSpeed')?.values ?? null;
  const axis: TimeAxis | null = timeAxis(times, engineSpeed, file);
  if (axis?.assumption) notes.push(axis.assumption);
  return {
    file,
    device,
    timeS: axis?.timeS ?? null,
    columns,
    rowCount: body.rowCount,
    report: {
      encoding: decoded.encoding + (decoded.byteOrderMark ? ' with byte order mark' : ''),
      delimiter: layout.delimiter === '\t' ? 'tab' : layout.delimiter,
      decimalMark: layout.decimalComma ? 'comma' : 'point',
      headerRow: layout.headerRow,
      unitsRow: layout.unitsRow,
      firstDataRow: layout.firstDataRow,
      rowCount: body.rowCount,
      preamble: layout.preamble,
      remarks: [...body.remarks, ...layout.trailing],
      timeColumn: axis?.column ?? null,
      columns: reports,
      notes,
    },
  };
}

interface NamedColumn {
  name: string;
  unitText: string | null;
  unit: UnitName | null;
  kind: ColumnKind;
  values: Float64Array;
  mapping: ChannelMapping | null;
  repeated: boolean;
}

function takenApart(
  raw: { header: string; unitRow: string; kind: ColumnKind; values: Float64Array },
  channels: Record<string, ChannelMapping>,
): NamedColumn {
  const parts = splitHeader(raw.header);
  const fromRow = raw.unitRow.trim().replace(/^[[(]|[\])]$/g, '') || null;
  const mapping = channels[raw.header.trim()] ?? channels[parts.name] ?? null;
  const unitText = mapping?.unit ?? parts.unitText ?? fromRow;
  return {
    name: parts.name,
    unitText,
    unit: unitText ? unitFromText(unitText) : null,
    kind: raw.kind,
    values: raw.values,
    mapping,
    repeated: false,
  };
}

/** Of two columns with one name and the same values the first is kept; with other values the second is renamed and not recognised. */
function withoutRepeats(columns: NamedColumn[], notes: string[]): NamedColumn[] {
  const kept: NamedColumn[] = [];
  for (const column of columns) {
    const twins = kept.filter((other) => other.name === column.name || other.name.startsWith(`${column.name} (`));
    if (twins.length === 0 || column.kind === 'text') {
      kept.push(column);
      continue;
    }
    if (twins.some((twin) => sameValues(twin.values, column.values))) {
      notes.push(`"${column.name}" stands twice with the same values: the first is kept.`);
      continue;
    }
    const name = `${column.name} (${twins.length + 1})`;
    notes.push(`"${column.name}" stands twice with other values: the later one is called "${name}".`);
    kept.push({ ...column, name, repeated: true, mapping: null });
  }
  return kept;
}

function sameValues(a: Float64Array, b: Float64Array): boolean {
  return a.length === b.length && a.every((value, index) => Object.is(value, b[index]) || value === b[index]);
}

function recognised(column: NamedColumn): { column: LogColumn; report: ColumnReport } {
  const { mapping, name, unitText } = column;
  const found = mapping?.quantity ?? (column.repeated || column.kind === 'text' ? null : quantityFromName(name));
  const plain: LogColumn = { name, quantity: null, unitText, section: null, corrected: null, gauge: false, values: column.values };
  const refuse = (note: string | null) => ({ column: plain, report: { name, takenFor: null, unit: unitText, note } });
  if (!found) return refuse(null);
  if (found === 'time') return { column: plain, report: { name, takenFor: 'time' as const, unit: unitText, note: null } };
  const afr = found === 'lambda' && (unitText?.toLowerCase() === 'afr' || (!unitText && /\bafr\b/i.test(name)));
  const expected = QUANTITY_UNITS[found];
  const unit = afr ? ('λ' as const) : unitText ? column.unit : expected.implied;
  if (!unit) {
    const why = unitText ? `its unit "${unitText}" is not known` : 'it names no unit';
    return refuse(`Looks like ${found}, but ${why}: say it under channels.`);
  }
  if (UNITS[unit].dimension !== expected.dimension)
    return refuse(`Looks like ${found}, but ${unit} does not fit that: say it under channels.`);
  const divisor = afr ? (mapping?.afrStoich ?? DEFAULT_AFR_STOICH) : 1;
  const zero = mapping?.zero ?? 0;
  const values = column.values.map((value) => toSi((value - zero) / divisor, unit));
  const pressure = pressureKind(found, mapping, unitText, name, values);
  const notes = [
    afr && !mapping?.afrStoich ? `divided by ${DEFAULT_AFR_STOICH}, the usual setting of the device (assumption)` : null,
    !unitText && !afr && unit !== 'λ' ? `no unit given: taken as ${unit}` : null,
    pressure.note,
  ].filter((note) => note !== null);
  return {
    column: {
      name,
      quantity: pressure.quantity,
      unitText,
      section: mapping?.section ?? (found === 'pressureDrop' ? sectionFromName(name) : null),
      corrected: mapping?.corrected ?? null,
      gauge: pressure.gauge,
      values,
    },
    report: { name, takenFor: pressure.quantity, unit: afr ? 'AFR' : unit, note: notes.join('; ') || null },
  };
}

/** A channel called boost that never falls below this, Pa, cannot be a gauge pressure: it is absolute. */
const ALWAYS_ABSOLUTE_PA = 60_000;

function pressureKind(quantity: Quantity, mapping: ChannelMapping | null, unitText: string | null, name: string, values: Float64Array) {
  const saysGauge = mapping?.gauge ?? (/(gauge|psig|kpag|barg|vacuum|depression)/i.test(`${unitText} ${name}`) || null);
  if (quantity === 'boostPressure' && saysGauge !== true) {
    const lowest = values.reduce((low, value) => (value < low ? value : low), Number.POSITIVE_INFINITY);
    if (lowest > ALWAYS_ABSOLUTE_PA)
      return { quantity: 'manifoldPressure' as const, gauge: false, note: 'never near zero: taken as absolute' };
  }
  return { quantity, gauge: quantity === 'boostPressure' || saysGauge === true, note: null };
}

/** A quantity is taken from the first column that looks like it; later ones stay unrecognised (pressure drops differ by section). */
function keepFirstOfEach(columns: LogColumn[], reports: ColumnReport[], notes: string[]): void {
  const taken = new Map<string, string>();
  for (const column of columns) {
    if (!column.quantity) continue;
    const key = `${column.quantity}/${column.section ?? ''}`;
    const first = taken.get(key);
    if (first === undefined) {
      taken.set(key, column.name);
      continue;
    }
    notes.push(`"${column.name}" also looks like ${column.quantity}: "${first}" is used.`);
    const report = reports.find(({ name }) => name === column.name);
    if (report) Object.assign(report, { takenFor: null, note: `"${first}" is used for ${column.quantity}` });
    column.quantity = null;
  }
}
