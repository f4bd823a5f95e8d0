import type { BenchInput, BenchInputs } from '@gezeit/contract';
import { fromSi, differenceFromSi, type UnitName } from '../units/units.js';
import type { Formatter } from '../format/formatter.js';
import { PLAIN_FORMATTER } from '../format/plain-formatter.js';

interface NumberRules {
  /** Unit that is expected where none is typed; the value is kept in SI (°C, rpm, %). */
  unit: UnitName;
  /** A difference of temperatures has no zero. */
  difference?: boolean;
  /** Limits beyond which it is impossible or absurd; refused. */
  above?: number;
  atLeast?: number;
  atMost?: number;
  below?: number;
  /** Range outside of which it is doubted, not refused. */
  believable?: readonly [number, number];
}

interface Named {
  name: string;
  label: string;
  /** Why it matters; shown while the field has the focus. Written in the chosen units where it names a figure that has one. */
  why: string | ((f: Formatter) => string);
}

/** Why a field matters, in words. */
export const whyText = ({ why }: Pick<Named, 'why'>, f: Formatter): string => (typeof why === 'string' ? why : why(f));

export interface NumberField extends Named, NumberRules {
  kind: 'number';
  /** What it holds until something is typed. */
  value?: number;
  /** An engineering assumption, with its usual range. */
  assumption?: readonly [number, number];
  optional?: boolean;
}
/** Several readings of one quantity. */
export interface ListField extends Named, NumberRules {
  kind: 'list';
  atLeastItems: number;
  value?: readonly number[];
}
export interface ChoiceField extends Named {
  kind: 'choice';
  choices: Readonly<Record<string, string>>;
  value: string;
}
export interface TextField extends Named {
  kind: 'text';
  value?: string;
  optional?: boolean;
}
export type ColumnField = NumberField | ChoiceField | TextField;
/** Rows of the same fields. */
export interface TableField extends Named {
  kind: 'table';
  columns: readonly ColumnField[];
  atLeastRows: number;
  /** How a file becomes rows and rows a file, where it is not simply a column a field. */
  csv?: { read(bytes: Uint8Array, file: string): BenchRow[]; write(rows: readonly BenchRow[]): string };
  /** Invented rows that ship with Gezeit, for trying. */
  example?: { name: string; rows(): BenchRow[] };
}

/** A row of a table, in the unit kept inside. */
export type BenchRow = Record<string, number | string | null>;
export type Field = NumberField | ListField | ChoiceField | TextField | TableField;

/** What is wrong with a field, or (null) with the inputs as a whole. */
export interface InputProblem {
  field: string | null;
  row?: number;
  /** Where and what; and what alone, for where the field stands. */
  message: string;
  short: string;
}

/** Inputs that have passed their fields' rules. */
export class Values {
  readonly #values: Readonly<Record<string, BenchInput>>;

  constructor(values: Readonly<Record<string, BenchInput>>) {
    this.#values = values;
  }

  number(name: string): number {
    return this.#values[name] as number;
  }

  optional(name: string): number | null {
    return (this.#values[name] as number | null | undefined) ?? null;
  }

  text(name: string): string {
    return (this.#values[name] as string | null | undefined) ?? '';
  }

  list(name: string): number[] {
    return this.#values[name] as number[];
  }

  rows(name: string): Values[] {
    return (this.#values[name] as BenchRow[]).map((row) => new Values(row));
  }
}

export interface CheckedInputs {
  values: Values;
  problems: InputProblem[];
  /** Doubts about values that were taken all the same. */
  doubts: string[];
}

/** Holds inputs against their fields: what is missing, impossible or absurd is named in a formatter's units; defaults are filled in. */
export function checkInputs(fields: readonly Field[], inputs: BenchInputs, f: Formatter = PLAIN_FORMATTER): CheckedInputs {
  const problems: InputProblem[] = [];
  const doubts: string[] = [];
  const values: Record<string, BenchInput> = {};
  for (const field of fields) {
    const given = inputs[field.name] ?? ('value' in field ? (field.value as BenchInput | undefined) : undefined) ?? null;
    values[field.name] = given;
    const refuse = (short: string) => problems.push({ field: field.name, message: `${field.label}: ${short}`, short });
    if (field.kind === 'table') {
      const rows = Array.isArray(given) ? (given as BenchRow[]) : [];
      if (rows.length < field.atLeastRows) refuse(`${rowsNeeded(field.atLeastRows)}.`);
      values[field.name] = rows.map((row, index) => checkRow(field, row, index, { problems, doubts, f }));
    } else checkOne(field, given, { refuse, doubts, f });
  }
  return { values: new Values(values), problems, doubts };
}

const rowsNeeded = (count: number) => (count === 1 ? 'add a row' : `add rows until there are ${count}`);

interface Found {
  problems: InputProblem[];
  doubts: string[];
  f: Formatter;
}

function checkRow(table: TableField, row: BenchRow, index: number, { problems, doubts, f }: Found): BenchRow {
  const checked: BenchRow = {};
  for (const column of table.columns) {
    const given = row[column.name] ?? ('value' in column ? (column.value ?? null) : null);
    checked[column.name] = given;
    const refuse = (short: string) =>
      problems.push({ field: table.name, row: index, message: `row ${index + 1}, ${column.label}: ${short}`, short });
    checkOne(column, given, { refuse, doubts, f });
  }
  return checked;
}

interface Told {
  refuse: (short: string) => void;
  doubts: string[];
  f: Formatter;
}

function checkOne(field: Exclude<Field, TableField>, given: BenchInput, told: Told): void {
  const { refuse } = told;
  if (field.kind === 'choice') {
    if (typeof given !== 'string' || !(given in field.choices)) refuse(`choose one of ${Object.values(field.choices).join(', ')}.`);
    return;
  }
  if (field.kind === 'text') {
    if (!field.optional && (typeof given !== 'string' || given.trim() === '')) refuse('write it down.');
    return;
  }
  if (field.kind === 'list') {
    const list = Array.isArray(given) ? given : [];
    if (list.length < field.atLeastItems)
      refuse(`${field.atLeastItems === 1 ? 'a reading' : `${field.atLeastItems} readings or more`} are needed.`);
    for (const value of list) checkNumber(field, value, told);
    return;
  }
  if (given === null) {
    if (!field.optional) refuse('type a number.');
    return;
  }
  checkNumber(field, given, told);
}

function checkNumber(field: (NumberField | ListField) & Named, value: unknown, { refuse, doubts, f }: Told): void {
  const show = (si: number) => fieldText(field, si, f);
  if (typeof value !== 'number' || !Number.isFinite(value)) refuse('this is no number.');
  else if (field.above !== undefined && !(value > field.above)) refuse(`must be above ${show(field.above)}.`);
  else if (field.atLeast !== undefined && value < field.atLeast) refuse(`must be ${show(field.atLeast)} or more.`);
  else if (field.below !== undefined && !(value < field.below)) refuse(`must be below ${show(field.below)}.`);
  else if (field.atMost !== undefined && value > field.atMost) refuse(`must be ${show(field.atMost)} or less.`);
  else if (field.believable && (value < field.believable[0] || value > field.believable[1]))
    doubts.push(
      `${field.label} of ${show(value)} is unusual (${show(field.believable[0])} to ${show(field.believable[1])}): check value and unit.`,
    );
}

/** A value of a field with its unit, as a formatter shows it. */
export function fieldText({ unit, difference = false }: NumberRules, si: number, f: Formatter): string {
  const value = difference ? differenceFromSi(si, unit) : fromSi(si, unit);
  const text = String(Number(f.shownValue(value, unit, difference).toPrecision(4)));
  const shown = f.shownUnit(unit, difference);
  return shown === '' ? text : `${text} ${shown}`;
}

type NumberOptions = Omit<NumberField, 'kind' | 'name' | 'label' | 'why' | 'unit'>;

/** A number field above zero, with a limit that no real thing reaches. */
export function numberField(name: string, label: string, unit: UnitName, why: Named['why'], options: NumberOptions = {}): NumberField {
  return {
    kind: 'number',
    name,
    label,
    unit,
    why,
    ...(options.atLeast === undefined && options.above === undefined ? { above: 0 } : {}),
    ...options,
  };
}

/** A temperature, °C, from far below freezing to beyond any charge air. */
export function temperatureField(name: string, label: string, why: string, options: NumberOptions = {}): NumberField {
  return { kind: 'number', name, label, unit: '°C', why, atLeast: -60, atMost: 400, ...options };
}

/** An absolute ambient pressure, Pa. */
export function ambientPressureField(options: NumberOptions = {}): NumberField {
  return numberField('ambientPressure', 'Ambient pressure', 'kPa', 'Station pressure at the bench or cell, not reduced to sea level.', {
    value: 100_000,
    atLeast: 50_000,
    atMost: 110_000,
    believable: [80_000, 105_000],
    ...options,
  });
}

/** A share between 0 and 1, typed as such or in per cent. */
export function shareField(name: string, label: string, why: string, options: NumberOptions = {}): NumberField {
  return { kind: 'number', name, label, unit: '–', why, above: 0, atMost: 1, ...options };
}
