import type { BenchInputs, EvidenceDraft, Figure, SectionKind } from '@gezeit/contract';
import { GezeitError } from '../errors.js';
import type { UnitName } from '../units/units.js';
import type { Formatter } from '../format/formatter.js';
import { PLAIN_FORMATTER } from '../format/plain-formatter.js';
import { checkInputs, fieldText, type Field, type InputProblem, type NumberField, type Values } from './fields.js';
import type { FormulaName } from './formula-texts.js';

export interface ChartAxis {
  label: string;
  unit: UnitName;
  difference?: boolean;
  from?: number;
  to?: number;
}
interface ChartLine {
  name: string;
  x: readonly number[];
  y: readonly (number | null)[];
  low?: readonly (number | null)[];
  high?: readonly (number | null)[];
  style?: 'solid' | 'dash' | 'dot';
  /** Guide lines stand back behind the figures. */
  guide?: boolean;
}
export interface ChartPoint {
  name: string;
  x: number;
  y: number;
  low?: number;
  high?: number;
}
/** What an instrument draws, in the unit kept inside; the page turns it into a chart. */
export interface BenchChart {
  name: string;
  title: string;
  subtitle: string;
  x: ChartAxis;
  y: ChartAxis;
  lines: readonly ChartLine[];
  points: readonly ChartPoint[];
  /** Region of risk: 1 where it is, on a grid; `y` runs along the rows. */
  region?: { name: string; x: readonly number[]; y: readonly number[]; risk: readonly (readonly number[])[] };
  /** Vertical or horizontal marks with their words. */
  marks?: readonly { axis: 'x' | 'y'; at: number; label: string }[];
}

/** Figures of one row of a table. */
export interface RowReading {
  row: string;
  figures: Figure[];
}

export interface Reading {
  /** The answer in one sentence. */
  sentence: string;
  figures: Figure[];
  rows?: RowReading[];
  warnings: string[];
  charts: BenchChart[];
}

/** One instrument of the bench: what it takes, what it computes, and what it is built on. */
export interface Instrument {
  id: string;
  title: string;
  /** The question that it answers. */
  question: string;
  /** Sections that it belongs to; empty for the whole way. */
  sections: readonly SectionKind[];
  fields: readonly Field[];
  formulas: readonly FormulaName[];
  /** Cautions that stand at the instrument, where the work can hurt someone. */
  cautions?(f: Formatter): readonly string[];
  /** Charts that take long, made in a worker. */
  sweep?(values: Values): BenchChart[];
  /** In a formatter's units. */
  read(values: Values, f: Formatter): Reading;
}

export type Measurement =
  | { problems: InputProblem[]; reading: null; doubts: string[] }
  | { problems: []; reading: Reading; doubts: string[] };

/** Checks an instrument's inputs and reads it, in a formatter's units; an impossible combination is a problem with its reason, never an exception. */
export function measure(instrument: Instrument, inputs: BenchInputs, f: Formatter = PLAIN_FORMATTER): Measurement {
  const { values, problems, doubts } = checkInputs(instrument.fields, inputs, f);
  if (problems.length > 0) return { problems, reading: null, doubts };
  try {
    return { problems: [], reading: instrument.read(values, f), doubts };
  } catch (error) {
    if (!(error instanceof GezeitError)) throw error;
    const message = `${error.message} ${error.nextStep}`;
    return { problems: [{ field: null, message, short: message }], reading: null, doubts };
  }
}

/** The slow charts of an instrument; none where the inputs do not allow them. */
export function sweep(instrument: Instrument, inputs: BenchInputs): BenchChart[] {
  const { values, problems } = checkInputs(instrument.fields, inputs);
  return problems.length > 0 || !instrument.sweep ? [] : instrument.sweep(values);
}

/** The assumptions among an instrument's inputs, as they stand. */
export function assumptionsOf(
  instrument: Instrument,
  inputs: BenchInputs,
  f: Formatter = PLAIN_FORMATTER,
): { name: string; value: string; range: string }[] {
  return instrument.fields
    .filter((field): field is NumberField => field.kind === 'number' && field.assumption !== undefined)
    .map((field) => ({
      name: field.label,
      value: fieldText(field, (inputs[field.name] as number | null | undefined) ?? field.value ?? Number.NaN, f),
      range: field.assumption!.map((value) => fieldText(field, value, f)).join(' to '),
    }));
}

/** A measurement as evidence, without what the server adds (who and when). */
export function evidenceFrom(
  instrument: Instrument,
  inputs: BenchInputs,
  about: { id: string; note: string; setup: string | null; section: string | null },
): EvidenceDraft {
  const { reading, problems, doubts } = measure(instrument, inputs);
  if (!reading) throw new GezeitError('nothing-to-keep', problems[0]!.message, 'Correct it, then keep the result.');
  return {
    format: 'gezeit-evidence',
    version: 1,
    id: about.id,
    instrument: instrument.id,
    title: instrument.title,
    sentence: reading.sentence,
    setup: about.setup,
    section: about.section,
    inputs,
    figures: [
      ...reading.figures,
      ...(reading.rows ?? []).flatMap(({ row, figures }) =>
        figures.map((figure) => ({ ...figure, name: `${row}/${figure.name}`, label: `${row}: ${figure.label}` })),
      ),
    ],
    warnings: [...reading.warnings, ...doubts],
    formulas: [...instrument.formulas],
    assumptions: assumptionsOf(instrument, inputs).map(({ name, value }) => ({ name, value })),
    note: about.note,
  };
}

/** A figure from SI. */
export function figure(name: string, label: string, value: number | null, unit: UnitName, more: Partial<Figure> = {}): Figure {
  return { name, label, value, unit, ...more };
}

/** A figure of a share, in per cent. */
export function percentFigure(name: string, label: string, value: number, more: { low?: number; high?: number } = {}): Figure {
  const scaled = Object.fromEntries(Object.entries(more).map(([key, limit]) => [key, 100 * limit]));
  return { name, label, value: 100 * value, unit: '%', ...scaled };
}

/** So many values from one to another, ends included. */
export function steps(from: number, to: number, count: number): number[] {
  return Array.from({ length: count }, (_, i) => from + ((to - from) * i) / (count - 1));
}
