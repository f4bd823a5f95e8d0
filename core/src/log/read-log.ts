import type { ChannelMapping } from '@gezeit/contract';
import { GezeitError } from '../errors.js';
import { insideValue, meaningOf, type ChannelMeaning } from '../channels/meaning.js';
import { readHeader, splitHeader } from '../channels/recognise.js';
import { readBody, type ColumnKind } from './body.js';
import { decodeText } from '../text/decode.js';
import { findLayout } from './layout.js';
import { decidePressures } from './pressure-kind.js';
import { oneColumnEach } from './same-quantity.js';
import type { ColumnReport, LogColumn, LogTable } from './log-table.js';
import { timeAxis, type TimeAxis, type TimeCandidate } from './time-axis.js';

export interface ReadOptions {
  file: string;
  device?: string;
  /** Mapping by column name where the header is not enough. */
  channels?: Record<string, ChannelMapping> | null;
}

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
      times.push({ name: column.name, values: column.values, unit: column.meaning.unit, clock: column.kind === 'clock' });
    else if (column.kind !== 'text') columns.push(log);
  }
  decidePressures(columns, reports);
  oneColumnEach(columns, reports, notes, channels ?? {});
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
  /** As it is called in the table: a second one of a name gets a number. */
  name: string;
  meaning: ChannelMeaning;
  kind: ColumnKind;
  values: Float64Array;
  mapping: ChannelMapping | null;
}

function takenApart(
  raw: { header: string; unitRow: string; kind: ColumnKind; values: Float64Array },
  channels: Record<string, ChannelMapping>,
): NamedColumn {
  const mapping = channels[raw.header.trim()] ?? channels[readHeader(raw.header).name] ?? channels[splitHeader(raw.header).name] ?? null;
  const meaning = meaningOf(raw.header, raw.unitRow, mapping);
  return { name: meaning.name, meaning, kind: raw.kind, values: raw.values, mapping };
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
    // Two air meters under one name are two banks; anything else under one name is not trusted twice.
    const meaning = column.meaning.quantity === 'airMassFlow' ? column.meaning : { ...column.meaning, quantity: null, notes: [] };
    kept.push({ ...column, name, meaning, mapping: null });
  }
  return kept;
}

function sameValues(a: Float64Array, b: Float64Array): boolean {
  return a.length === b.length && a.every((value, index) => Object.is(value, b[index]) || value === b[index]);
}

function recognised({ name, meaning, kind, values, mapping }: NamedColumn): { column: LogColumn; report: ColumnReport } {
  const { quantity: found, unitText, unit } = meaning;
  const plain: LogColumn = { name, quantity: null, unitText, section: null, corrected: null, gauge: false, values };
  if (!found || kind === 'text') return { column: plain, report: { name, takenFor: null, unit: unitText, note: meaning.notes[0] ?? null } };
  if (found === 'time') return { column: plain, report: { name, takenFor: 'time' as const, unit: unitText, note: null } };
  const inside = values.map((value) => insideValue(meaning, value));
  return {
    column: {
      name,
      quantity: found,
      unitText,
      section: meaning.section,
      corrected: mapping?.corrected ?? null,
      gauge: meaning.gauge === true || (found === 'boostPressure' && meaning.gauge !== false),
      values: inside,
    },
    report: { name, takenFor: found, unit: meaning.divisor === 1 ? unit : 'AFR', note: meaning.notes.join('; ') || null },
  };
}
