import type { Quantity } from '@gezeit/contract';
import { QUANTITY_UNITS } from '../../../src/channels/quantity-units.js';
import { fromSi, type UnitName } from '../../../src/units/units.js';
import type { Habit, Key } from './habits.js';
import { knownTable } from './table.js';

/** How units are written: where they stand, and how they are spelled. */
export const UNIT_PLACES = ['bracket', 'square', 'comma', 'suffix', 'row', 'none'] as const;
type UnitPlace = (typeof UNIT_PLACES)[number];

export const TIME_FORMS = [
  's',
  'ms',
  'min',
  'plain-s',
  'clock',
  'clock-comma',
  'iso',
  'day-first',
  'month-first',
  'month-name',
  'am-pm',
  'epoch-s',
  'epoch-ms',
  'serial',
  'date-and-time',
  'midnight',
] as const;
type TimeForm = (typeof TIME_FORMS)[number];

/** How a table is written. */
export interface Form {
  delimiter: ',' | ';' | '\t' | '|' | ' ';
  decimal: '.' | ',';
  units: UnitPlace;
  system: 'metric' | 'imperial' | 'bar' | 'odd';
  time: TimeForm;
  thousands: boolean;
  gaps: boolean;
}

/** Units of a system of measures by dimension, with how people spell them. */
const SYSTEMS: Record<Form['system'], Partial<Record<string, [UnitName, string]>>> = {
  metric: {
    pressure: ['kPa', 'kPa'],
    temperature: ['°C', '°C'],
    speed: ['km/h', 'km/h'],
    power: ['kW', 'kW'],
    torque: ['N·m', 'Nm'],
    massFlow: ['g/s', 'g/s'],
    rotation: ['rpm', 'rpm'],
    angle: ['°', '°'],
    lambda: ['λ', 'λ'],
    ratio: ['%', '%'],
    time: ['ms', 'ms'],
  },
  imperial: {
    pressure: ['psi', 'psi'],
    temperature: ['°F', 'degF'],
    speed: ['mph', 'mph'],
    power: ['hp', 'hp'],
    torque: ['lb·ft', 'lb-ft'],
    massFlow: ['lb/min', 'lbs/min'],
    rotation: ['rpm', 'RPM'],
    angle: ['°', 'deg'],
    lambda: ['λ', 'lambda'],
    ratio: ['%', '%'],
    time: ['ms', 'msec'],
  },
  bar: {
    pressure: ['mbar', 'mbar'],
    temperature: ['°C', 'C'],
    speed: ['km/h', 'kph'],
    power: ['PS', 'PS'],
    torque: ['N·m', 'N.m'],
    massFlow: ['kg/h', 'kg/h'],
    rotation: ['rpm', '1/min'],
    angle: ['°', '°KW'],
    lambda: ['λ', '-'],
    ratio: ['%', '%'],
    time: ['ms', 'ms'],
  },
  odd: {
    pressure: ['bar', 'bar'],
    temperature: ['K', 'K'],
    speed: ['m/s', 'm/s'],
    power: ['W', 'W'],
    torque: ['kgf·m', 'mkg'],
    massFlow: ['kg/s', 'kg/s'],
    rotation: ['rpm', 'U/min'],
    angle: ['°', 'deg BTDC'],
    lambda: ['λ', 'Lambda'],
    ratio: ['%', 'percent'],
    time: ['s', 's'],
  },
};
const DROP_UNITS: Record<Form['system'], [UnitName, string]> = {
  metric: ['kPa', 'kPa'],
  imperial: ['inH2O', 'in H2O'],
  bar: ['mbar', 'mbar'],
  odd: ['Pa', 'Pa'],
};

export interface TrueColumn {
  header: string;
  /** Null for what is none of the quantities. */
  quantity: Quantity | null;
  section: string | null;
  low: number | null;
  high: number | null;
  /** The written unit; null where none is written. */
  unit: UnitName | null;
}

export interface WrittenTable {
  text: string;
  columns: TrueColumn[];
  sweep: readonly [number, number];
}

const START = Date.UTC(2026, 4, 16, 9, 12, 30);

/** Writes the known table: the keys in an order, named by a habit's way number `way`. */
export function writeTable(habit: Habit, keys: readonly Key[], way: number, form: Form, seed: number): WrittenTable {
  const table = knownTable(20, seed);
  const present = keys.filter((key) => key !== 'time' && habit.names[key] !== undefined);
  const pick = (names: string) => {
    const ways = names.split(' | ');
    return ways[way % ways.length]!;
  };
  const times = timeCells(table.timeS, form.time);
  const timeName = pick(habit.names.time!);
  const heads: { name: string; unit: string }[] =
    times.length === 2
      ? [
          { name: 'Date', unit: '' },
          { name: timeName, unit: '' },
        ]
      : [{ name: timeName, unit: { s: 's', ms: 'ms', min: 'min' }[form.time as string] ?? '' }];
  const columns: TrueColumn[] = heads.map(({ name }) => ({ header: name, quantity: 'time', section: null, low: null, high: null, unit: null }));
  const cells: string[][] = [...times];
  for (const key of present) {
    const [name, section] = key.split('/') as [Quantity | 'none', string | undefined];
    const values = table.columns.get(key)!;
    const quantity = name === 'none' ? null : name;
    const dimension = quantity ? QUANTITY_UNITS[quantity].dimension : /Pressure|brake/.test(section!) ? 'pressure' : /tyre|gearbox/.test(section!) ? 'temperature' : /cam|steering/.test(section!) ? 'angle' : '';
    const unit = quantity === 'pressureDrop' ? DROP_UNITS[form.system] : SYSTEMS[form.system][dimension];
    const written = unit ? values.map((value) => fromSi(value, unit[0])) : values;
    const digits = digitsFor(written);
    const texts = [...written].map((value) => number(value, digits, form));
    if (form.gaps) [3, 17, 40].forEach((row, i) => (texts[row] = ['NaN', '#DIV/0!', '---'][i]!));
    cells.push(texts);
    const back = written.map((value) => Number(value.toFixed(digits)));
    const kept = form.gaps ? back.filter((_, row) => ![3, 17, 40].includes(row)) : back;
    const inside = unit ? kept.map((value) => toInside(value, unit[0])) : kept;
    columns.push({
      header: pick(habit.names[key]!),
      quantity,
      section: quantity === 'pressureDrop' ? (section ?? null) : null,
      low: Math.min(...inside),
      high: Math.max(...inside),
      unit: unit?.[0] ?? null,
    });
    heads.push({ name: pick(habit.names[key]!), unit: unit?.[1] ?? '' });
  }
  const header = heads.map(({ name, unit }) => headerCell(name, unit, form));
  columns.forEach((column, i) => (column.header = header[i]!));
  const rows = [header];
  if (form.units === 'row') rows.push(heads.map(({ unit }) => unit));
  for (let i = 0; i < table.timeS.length; i += 1) rows.push(cells.map((column) => column[i]!));
  const quote = (cell: string) => (cell.includes(form.delimiter) ? `"${cell}"` : cell);
  const join = form.delimiter === ' ' ? '  ' : form.delimiter;
  return { text: `${rows.map((row) => row.map(quote).join(join)).join('\n')}\n`, columns, sweep: table.sweep };
}

const toInside = (value: number, unit: UnitName): number => {
  const zero = fromSi(0, unit);
  const one = fromSi(1, unit);
  return (value - zero) / (one - zero);
};

function headerCell(name: string, unit: string, { units }: Form): string {
  if (unit === '') return name;
  switch (units) {
    case 'bracket':
      return `${name} (${unit})`;
    case 'square':
      return `${name} [${unit}]`;
    case 'comma':
      return `${name}, ${unit}`;
    case 'suffix':
      return `${name}_${unit}`;
    case 'row':
    case 'none':
      return name;
  }
}

function digitsFor(values: Float64Array): number {
  const span = values.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  return span >= 1000 ? 0 : span >= 100 ? 1 : span >= 10 ? 2 : span >= 1 ? 3 : 5;
}

function number(value: number, digits: number, { decimal, thousands }: Form): string {
  let text = value.toFixed(digits);
  if (thousands && digits === 0) text = text.replace(/\B(?=(\d{3})+(?!\d))/g, decimal === ',' ? '.' : ',');
  else if (decimal === ',') text = text.replace('.', ',');
  return text;
}

const two = (value: number) => String(value).padStart(2, '0');
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

function timeCells(timeS: Float64Array, form: TimeForm): string[][] {
  const each = (write: (date: Date, seconds: number) => string) => [...timeS].map((seconds) => write(new Date(START + Math.round(seconds * 1000)), seconds));
  const clock = (date: Date, mark = '.') => `${two(date.getUTCHours())}:${two(date.getUTCMinutes())}:${two(date.getUTCSeconds())}${mark}${String(date.getUTCMilliseconds()).padStart(3, '0')}`;
  switch (form) {
    case 's':
    case 'plain-s':
      return [each((_, seconds) => seconds.toFixed(3))];
    case 'ms':
      return [each((_, seconds) => (1000 * seconds).toFixed(0))];
    case 'min':
      return [each((_, seconds) => (seconds / 60).toFixed(6))];
    case 'clock':
      return [each((date) => clock(date))];
    case 'clock-comma':
      return [each((date) => clock(date, ','))];
    case 'iso':
      return [each((date) => date.toISOString())];
    case 'day-first':
      return [each((date) => `${two(date.getUTCDate())}.${two(date.getUTCMonth() + 1)}.2026 ${clock(date)}`)];
    case 'month-first':
      return [each((date) => `${date.getUTCMonth() + 1}/${date.getUTCDate()}/2026 ${clock(date)}`)];
    case 'month-name':
      return [each((date) => `${date.getUTCDate()}-${MONTHS[date.getUTCMonth()]}-2026 ${clock(date)}`)];
    case 'am-pm':
      return [each((date) => `${date.getUTCMonth() + 1}/${date.getUTCDate()}/2026 ${date.getUTCHours() % 12 || 12}:${two(date.getUTCMinutes())}:${two(date.getUTCSeconds())}.${String(date.getUTCMilliseconds()).padStart(3, '0')} AM`)];
    case 'epoch-s':
      return [each((date) => (date.getTime() / 1000).toFixed(3))];
    case 'epoch-ms':
      return [each((date) => String(date.getTime()))];
    case 'serial':
      return [each((date) => (25569 + date.getTime() / 86_400_000).toFixed(9))];
    case 'date-and-time':
      return [each(() => '2026-05-16'), each((date) => clock(date))];
    case 'midnight':
      return [each((_, seconds) => clock(new Date(Date.UTC(2026, 4, 16, 23, 59, 55) + Math.round(seconds * 1000))))];
  }
}
