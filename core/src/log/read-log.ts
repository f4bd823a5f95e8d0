import type { ChannelMapping } from '@gezeit/contract';
import { GezeitError } from '../errors.js';
import { takeHeaderApart } from '../channels/header.js';
import { recogniseColumns } from '../channels/recognise.js';
import type { ColumnAsWritten, Recognition } from '../channels/recognition.js';
import { timeNoteText } from './report-words.js';
import type { BodyColumns } from './body.js';
import { isMonotonousCurve } from './curve-over-speed.js';
import { LONG_FILE_BYTES } from './excerpt.js';
import type { Layout } from './layout.js';
import type { ColumnReport, FileClock, LogColumn, ReadProblem, ReadTable, UnsettledTime } from './log-table.js';
import { takeColumns } from './taken-columns.js';
import { writtenTable } from './written-table.js';
import { readPreamble, type Preamble } from './preamble.js';
import { decidePressures } from './pressure-kind.js';
import { oneColumnEach } from './same-quantity.js';
import type { TimeFormat } from './time-cells.js';
import { timeAxis, type TimeAxis, type TimeCandidate } from './time-axis.js';

export interface ReadOptions {
  file: string;
  device?: string;
  /** Mapping by column name where the header is not enough. */
  channels?: Record<string, ChannelMapping> | null;
  /** In which order dates stand that could be read both ways, where somebody has said it for all files. */
  dateOrder?: TimeFormat['order'] | null;
  /** From so many bytes on it is tried without a text of the whole file, which comes to the same. */
  longFromBytes?: number;
  /** The file is still to be sorted: a time that is left open is told in its report, as somebody may say more of its columns. */
  isLoose?: boolean;
}

/**
 * Reads a log: bytes to recognised columns of Float64, with a report of what was taken for what.
 * @throws GezeitError with file, row and column where the input is empty, binary, no table, or contradicts itself.
 */
export function readLog(
  bytes: Uint8Array,
  { file, device = '', channels, dateOrder = null, longFromBytes = LONG_FILE_BYTES, isLoose = false }: ReadOptions,
): ReadTable {
  const ordersOf = ({ names }: Layout) => names.map((header) => orderSaid(mappingOf(header, channels ?? {})) ?? dateOrder);
  const { layout, body, encoding } = writtenTable(bytes, file, ordersOf, longFromBytes);
  const mappings = layout.names.map((header) => mappingOf(header, channels ?? {}));
  if (body.rowCount === 0) throw new GezeitError('empty-file', 'The table has a header but no rows.', 'Export the log again.', { file });
  const written = layout.names.map((header, i): ColumnAsWritten => ({
    header: header.trim(),
    unitRow: layout.units[i] ?? '',
    kind: kindOf(body.formats[i]!),
    values: body.values[i]!,
    mapping: mappings[i]!,
  }));
  const recognitions = recogniseColumns(written);
  const notes: string[] = [];
  const names = uniqueNames(recognitions, notes);
  const { columns, reports } = takeColumns(written, recognitions, names, body, notes);
  const problems = problemsOf(layout, body);
  const times = recognitions.flatMap(({ quantity, unit }, i): TimeCandidate[] => {
    if (quantity !== 'time') return [];
    const format = body.formats[i]!;
    return [{ index: i, name: names[i]!, values: body.values[i]!, unit, format: format.kind === 'clock' ? format.time : null }];
  });
  decidePressures(columns, reports);
  oneColumnEach(columns, reports, notes, channels ?? {});
  const engineSpeed = columns.find(({ quantity }) => quantity === 'engineSpeed')?.values ?? null;
  const axis = timeAxis(times, engineSpeed);
  const unsettled = unsettledTime(axis, columns, reports);
  if (unsettled && !(isLoose && canBeSaid(unsettled)))
    throw new GezeitError(unsettled.code, unsettled.what, unsettled.todo, {
      file,
      ...(unsettled.clocks && { column: unsettled.clocks[1] }),
    });
  for (const note of axis?.notes ?? []) {
    const { text, todo } = timeNoteText(note);
    if (note.code === 'unit-assumed' || note.code === 'kind-judged' || note.code === 'spread') notes.push(text);
    else
      problems.push({
        row: note.code === 'restarted' ? layout.firstDataRow + note.row : null,
        column: axis!.columns[0]!,
        what: text,
        todo,
      });
  }
  if (axis?.order) for (const column of columns) column.values = Float64Array.from(axis.order, (row) => column.values[row]!);
  const preamble = readPreamble(layout.preamble);
  return {
    file,
    device,
    timeS: axis?.timeS ?? null,
    clock: axis ? clockOf(axis, preamble, file) : null,
    preamble: preamble.values,
    columns,
    rowCount: body.rowCount,
    report: {
      encoding,
      delimiter: layout.partedByBlanks ? 'blanks' : layout.delimiter === '\t' ? 'tab' : layout.delimiter,
      decimalMark: layout.decimalComma ? 'comma' : 'point',
      headerRow: layout.headerRow,
      unitsRow: layout.unitsRow,
      firstDataRow: layout.firstDataRow,
      rowCount: body.rowCount,
      preamble: layout.preamble,
      remarks: [...body.remarks, ...layout.trailing],
      timeColumn: axis ? names[axis.columns[0]!]! : null,
      columns: reports,
      notes,
      problems,
      readAs: channels ?? null,
      recordings: axis?.recordings ?? [],
      dateQuestion: dateQuestionOf(body),
      ...(unsettled && { unsettled }),
    },
  };
}

const kindOf = ({ kind }: BodyColumns['formats'][number]): ColumnAsWritten['kind'] => (kind === 'switch' ? 'number' : kind);

/** What was decided about a column: by its whole header, or by its name without the unit. */
function mappingOf(header: string, channels: Record<string, ChannelMapping>): ChannelMapping | null {
  return channels[header.trim()] ?? channels[takeHeaderApart(header).name] ?? null;
}

/** The order of a date, where somebody has said it as the unit of its column. */
function orderSaid(mapping: ChannelMapping | null): TimeFormat['order'] | null {
  const unit = mapping?.unit;
  return unit === 'day-first' || unit === 'month-first' ? unit : null;
}

/** As the columns are called in the table: a second one of a name gets a number. */
function uniqueNames(recognitions: readonly Recognition[], notes: string[]): string[] {
  const names: string[] = [];
  for (const { name } of recognitions) {
    let unique = name;
    for (let count = 2; names.includes(unique); count += 1) unique = `${name} (${count})`;
    if (unique !== name) notes.push(`"${name}" stands more than once: the later one is called "${unique}".`);
    names.push(unique);
  }
  return names;
}

function problemsOf(layout: Layout, body: BodyColumns): ReadProblem[] {
  const problems: ReadProblem[] = [];
  const gaps = body.gaps.reduce((sum, count) => sum + count, 0);
  if (gaps > 0) {
    const worst = body.gaps.indexOf(Math.max(...body.gaps));
    problems.push({
      row: null,
      column: worst,
      what: `${gaps} ${gaps === 1 ? 'cell says' : 'cells say'} that there is no value, most of them in "${layout.names[worst]!.trim()}": read as gaps.`,
      todo: 'Nothing, unless there ought to be values.',
    });
  }
  const [odd] = body.odd;
  if (odd)
    problems.push({
      row: odd.row,
      column: odd.column,
      what: `"${odd.text}" is no value${body.oddCount > 1 ? `, and so are ${body.oddCount - 1} other cells` : ''}: read as ${body.oddCount > 1 ? 'gaps' : 'a gap'}.`,
      todo: 'Correct the cell in the logger if there ought to be a value.',
    });
  if (body.longRow !== null)
    problems.push({
      row: body.longRow,
      column: null,
      what: `${body.longCount === 1 ? 'A row has' : `${body.longCount} rows have`} more cells than the header has columns: the extra ones are left out.`,
      todo: 'Name their columns in the header if they matter.',
    });
  if (layout.cutRow !== null)
    problems.push({
      row: layout.cutRow,
      column: null,
      what: 'The last row stops half-way and is left out: the file was cut off while it was copied or written.',
      todo: 'Copy it again if the end matters.',
    });
  return problems;
}

function dateQuestionOf({ formats }: BodyColumns): { column: number; text: string; choices: [string, string] } | null {
  for (const [column, format] of formats.entries()) {
    if (format.kind === 'clock' && format.readings) return { column, text: format.example, choices: format.readings };
  }
  return null;
}

/** What a file leaves open about its time: two columns are at odds, or it has none and is no curve over engine speed either. */
function unsettledTime(axis: TimeAxis | null, columns: readonly LogColumn[], reports: readonly ColumnReport[]): UnsettledTime | null {
  const headers = reports.map(({ header }) => header);
  if (axis?.contradiction) {
    const { columns: at, coverS } = axis.contradiction;
    const clocks: [string, string] = [headers[at[0]]!, headers[at[1]]!];
    const what = `Two time columns contradict each other: "${clocks[0]}" covers ${coverS[0].toFixed(1)} s, "${clocks[1]}" ${coverS[1].toFixed(1)} s.`;
    return { code: 'time-columns-contradict', what, todo: 'Ignore the wrong one, or correct its unit.', clocks };
  }
  const speed = columns.find(({ quantity }) => quantity === 'engineSpeed');
  if (axis || !speed || isMonotonousCurve(speed.values)) return null;
  const what = `No column of it was understood as time, and engine speed does not rise through it, so that it is no curve either (columns: ${headers.slice(0, 4).join(', ')}${headers.length > 4 ? ', …' : ''}).`;
  return { code: 'no-time', what, todo: 'Say which column is the time, or export the log with one.', clocks: null };
}

/** Columns are told apart by their headers. */
const canBeSaid = ({ clocks }: UnsettledTime) => clocks === null || clocks[0] !== clocks[1];

/** A file's clock with what stands above its table or in its name. */
function clockOf({ kind, columns, recordings, startsAtMs, zoneMin }: TimeAxis, preamble: Preamble, file: string): FileClock {
  const said = startsAtMs ?? startFrom(kind, preamble, file);
  return { kind, columns, recordings, startsAtMs: said, zoneMin };
}

function startFrom(kind: FileClock['kind'], { dateMs, clockMs }: Preamble, file: string): number | null {
  const day = dateMs ?? dateInName(file);
  if (day === null) return null;
  if (kind === 'clock') return day;
  return clockMs === null ? null : day + clockMs;
}

/** A date in a file's name, as loggers write it: year first. */
function dateInName(file: string): number | null {
  const match = /(?<!\d)(20\d{2})[-_.]?(0[1-9]|1[0-2])[-_.]?(0[1-9]|[12]\d|3[01])(?!\d)/.exec(file.split('/').pop()!);
  return match ? Date.UTC(+match[1]!, +match[2]! - 1, +match[3]!) : null;
}
