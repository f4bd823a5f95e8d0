import type { Correction, Quantity } from '@gezeit/contract';

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
