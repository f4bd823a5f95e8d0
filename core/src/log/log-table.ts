import type { ChannelMapping, Correction, Quantity, ReadReason } from '@gezeit/contract';
import type { Recording } from './row-order.js';
import type { TimeKind } from './time-axis.js';

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

/** What a column was taken for, how sure, and what was assumed for it. In the file's order, every column of it. */
export interface ColumnReport {
  name: string;
  header: string;
  takenFor: Quantity | null;
  unit: string | null;
  section: string | null;
  gauge: boolean | null;
  /** Least, middle and greatest value in the unit kept inside, as written for an unknown column; null for times and text. */
  low: number | null;
  middle: number | null;
  high: number | null;
  sure: number;
  rivals: { quantity: Quantity; sure: number }[];
  /** Index of the column whose equal it is. */
  duplicateOf: number | null;
  used: boolean;
  reasons: ReadReason[];
  /** Cells that hold a word for no value. */
  gaps: number;
}

/** A fault of a file that did not keep it from being read. */
export interface ReadProblem {
  row: number | null;
  column: number | null;
  what: string;
  todo: string;
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
  problems: ReadProblem[];
  /** What was decided about its columns when it was read; absent in tables that were kept before that was written down. */
  readAs?: Record<string, ChannelMapping> | null;
  /** Runs of the clock; absent in tables that were kept before there were several. */
  recordings?: Recording[];
  /** A date that can be read in two ways, with the days that it can mean. */
  dateQuestion: { column: number; text: string; choices: [string, string] } | null;
  /** Why nobody can say when its rows were until somebody says more of its columns; absent where all is said. */
  unsettled?: UnsettledTime;
}

/** A time that the file leaves open: it has none, or two of its columns (their headers) are at odds about it. */
export interface UnsettledTime {
  code: 'no-time' | 'time-columns-contradict';
  what: string;
  todo: string;
  clocks: [string, string] | null;
}

/** A file's own clock. */
export interface FileClock {
  kind: TimeKind;
  columns: number[];
  recordings: Recording[];
  /** When own clock 0 is, ms since 1970 as the clock on the wall says it; null where nothing tells. */
  startsAtMs: number | null;
  /** Minutes east of UTC that the file gives; null where it gives none. */
  zoneMin: number | null;
}

/** A reading of the air that stands above the table. */
export interface PreambleValue {
  quantity: Quantity;
  /** In the unit kept inside. */
  value: number;
  text: string;
}

export interface LogTable {
  file: string;
  device: string;
  /** Seconds on the logger's own clock; null for a curve over engine speed. Later recordings are shifted behind the earlier ones. */
  timeS: Float64Array | null;
  columns: LogColumn[];
  rowCount: number;
  report: ReadReport;
}

/** A log as it was just read, with what its own clock and the lines above it say. */
export interface ReadTable extends LogTable {
  clock: FileClock | null;
  preamble: PreambleValue[];
}
