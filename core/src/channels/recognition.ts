import type { ChannelMapping, Quantity, ReadReason } from '@gezeit/contract';
import type { UnitName } from '../units/units.js';

/** A column of a file, as written, before anything is known of it. */
export interface ColumnAsWritten {
  header: string;
  unitRow: string;
  kind: 'number' | 'clock' | 'text';
  values: Float64Array;
  mapping: ChannelMapping | null;
}

/** What a column is taken for, how sure, and what else it could be. */
export interface Recognition {
  name: string;
  unitText: string | null;
  quantity: Quantity | null;
  /** In which it is written; null for time and for what is not recognised. */
  unit: UnitName | null;
  section: string | null;
  /** A pressure against ambient (true) or absolute (false), where name, unit, mapping or values say so. */
  gauge: boolean | null;
  /** What its values are divided by first: a stoichiometric ratio, or the inverse of "x1000"; else 1. */
  divisor: number;
  sure: number;
  rivals: { quantity: Quantity; sure: number }[];
  because: ReadReason[];
}
