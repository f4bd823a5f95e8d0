import { GezeitError } from '../errors.js';

/** Standard gravity, m/s², exact (ISO 80000-3). */
const STANDARD_GRAVITY = 9.80665;

const FOOT_M = 0.3048;
const POUND_KG = 0.45359237;
const POUND_FORCE_N = POUND_KG * STANDARD_GRAVITY;
const INCH_M = FOOT_M / 12;

export type Dimension =
  | 'time'
  | 'rotation'
  | 'speed'
  | 'power'
  | 'torque'
  | 'temperature'
  | 'pressure'
  | 'ratio'
  | 'massFlow'
  | 'volumeFlow'
  | 'frequency'
  | 'lambda'
  | 'angle'
  | 'area'
  | 'volume'
  | 'factor'
  | 'length'
  | 'mass'
  | 'density'
  | 'heatCapacity'
  | 'conductance'
  | 'specificHeat'
  | 'flowResistance'
  | 'specificFuel'
  | 'sound';

interface Unit {
  dimension: Dimension;
  /** SI value = (value + offset) · factor. */
  factor: number;
  offset?: number;
}

/**
 * Every unit Gezeit reads or shows, as its factor to the unit kept inside (SI; °C for temperatures, rpm for rotation,
 * per cent for shares). Sources: NIST SP 811, ISO 80000; `hp` is mechanical, `PS` metric; `inH2O` is the conventional one.
 */
export const UNITS = {
  s: { dimension: 'time', factor: 1 },
  ms: { dimension: 'time', factor: 1e-3 },
  min: { dimension: 'time', factor: 60 },
  h: { dimension: 'time', factor: 3600 },
  rpm: { dimension: 'rotation', factor: 1 },
  'm/s': { dimension: 'speed', factor: 1 },
  'km/h': { dimension: 'speed', factor: 1 / 3.6 },
  mph: { dimension: 'speed', factor: 0.44704 },
  'ft/min': { dimension: 'speed', factor: FOOT_M / 60 },
  W: { dimension: 'power', factor: 1 },
  kW: { dimension: 'power', factor: 1000 },
  hp: { dimension: 'power', factor: 550 * FOOT_M * POUND_FORCE_N },
  PS: { dimension: 'power', factor: 75 * STANDARD_GRAVITY },
  'N·m': { dimension: 'torque', factor: 1 },
  'lb·ft': { dimension: 'torque', factor: FOOT_M * POUND_FORCE_N },
  'kgf·m': { dimension: 'torque', factor: STANDARD_GRAVITY },
  '°C': { dimension: 'temperature', factor: 1 },
  K: { dimension: 'temperature', factor: 1, offset: -273.15 },
  '°F': { dimension: 'temperature', factor: 1 / 1.8, offset: -32 },
  Pa: { dimension: 'pressure', factor: 1 },
  hPa: { dimension: 'pressure', factor: 100 },
  mbar: { dimension: 'pressure', factor: 100 },
  kPa: { dimension: 'pressure', factor: 1000 },
  bar: { dimension: 'pressure', factor: 1e5 },
  psi: { dimension: 'pressure', factor: POUND_FORCE_N / INCH_M ** 2 },
  atm: { dimension: 'pressure', factor: 101325 },
  inHg: { dimension: 'pressure', factor: 13595.1 * STANDARD_GRAVITY * INCH_M },
  mmHg: { dimension: 'pressure', factor: 13595.1 * STANDARD_GRAVITY * 1e-3 },
  inH2O: { dimension: 'pressure', factor: 1000 * STANDARD_GRAVITY * INCH_M },
  mmH2O: { dimension: 'pressure', factor: STANDARD_GRAVITY },
  '%': { dimension: 'ratio', factor: 1 },
  'kg/s': { dimension: 'massFlow', factor: 1 },
  'g/s': { dimension: 'massFlow', factor: 1e-3 },
  'mg/s': { dimension: 'massFlow', factor: 1e-6 },
  'kg/h': { dimension: 'massFlow', factor: 1 / 3600 },
  'lb/min': { dimension: 'massFlow', factor: POUND_KG / 60 },
  'm³/s': { dimension: 'volumeFlow', factor: 1 },
  CFM: { dimension: 'volumeFlow', factor: FOOT_M ** 3 / 60 },
  Hz: { dimension: 'frequency', factor: 1 },
  kHz: { dimension: 'frequency', factor: 1000 },
  λ: { dimension: 'lambda', factor: 1 },
  '°': { dimension: 'angle', factor: 1 },
  'm²': { dimension: 'area', factor: 1 },
  'cm²': { dimension: 'area', factor: 1e-4 },
  'in²': { dimension: 'area', factor: INCH_M ** 2 },
  'm³': { dimension: 'volume', factor: 1 },
  L: { dimension: 'volume', factor: 1e-3 },
  'cm³': { dimension: 'volume', factor: 1e-6 },
  'in³': { dimension: 'volume', factor: INCH_M ** 3 },
  '–': { dimension: 'factor', factor: 1 },
  'm³/h': { dimension: 'volumeFlow', factor: 1 / 3600 },
  'L/s': { dimension: 'volumeFlow', factor: 1e-3 },
  'L/min': { dimension: 'volumeFlow', factor: 1e-3 / 60 },
  m: { dimension: 'length', factor: 1 },
  km: { dimension: 'length', factor: 1000 },
  cm: { dimension: 'length', factor: 1e-2 },
  mm: { dimension: 'length', factor: 1e-3 },
  in: { dimension: 'length', factor: INCH_M },
  kg: { dimension: 'mass', factor: 1 },
  g: { dimension: 'mass', factor: 1e-3 },
  'kg/m³': { dimension: 'density', factor: 1 },
  'J/K': { dimension: 'heatCapacity', factor: 1 },
  'kJ/K': { dimension: 'heatCapacity', factor: 1000 },
  'W/K': { dimension: 'conductance', factor: 1 },
  'J/(kg·K)': { dimension: 'specificHeat', factor: 1 },
  'Pa·s/m': { dimension: 'flowResistance', factor: 1 },
  'g/kWh': { dimension: 'specificFuel', factor: 1 },
  dB: { dimension: 'sound', factor: 1 },
} as const satisfies Record<string, Unit>;

export type UnitName = keyof typeof UNITS;

/** Other spellings met in files and typed by people, all lower case and without spaces. */
const SPELLINGS: Record<string, UnitName> = {
  sec: 's',
  secs: 's',
  second: 's',
  seconds: 's',
  msec: 'ms',
  millis: 'ms',
  minutes: 'min',
  hours: 'h',
  '1/min': 'rpm',
  'u/min': 'rpm',
  'r/min': 'rpm',
  'rev/min': 'rpm',
  'min-1': 'rpm',
  kph: 'km/h',
  kmh: 'km/h',
  'mi/h': 'mph',
  fpm: 'ft/min',
  mps: 'm/s',
  watt: 'W',
  bhp: 'hp',
  whp: 'hp',
  cv: 'PS',
  pk: 'PS',
  'hp(metric)': 'PS',
  nm: 'N·m',
  'n*m': 'N·m',
  'n.m': 'N·m',
  'n-m': 'N·m',
  'lb-ft': 'lb·ft',
  lbft: 'lb·ft',
  'ft-lb': 'lb·ft',
  ftlb: 'lb·ft',
  'ft·lb': 'lb·ft',
  'lbf·ft': 'lb·ft',
  'lbf-ft': 'lb·ft',
  lbfft: 'lb·ft',
  'lb.ft': 'lb·ft',
  kgm: 'kgf·m',
  kgfm: 'kgf·m',
  'kgf.m': 'kgf·m',
  mkg: 'kgf·m',
  c: '°C',
  degc: '°C',
  'deg.c': '°C',
  celsius: '°C',
  ºc: '°C',
  f: '°F',
  degf: '°F',
  fahrenheit: '°F',
  ºf: '°F',
  kelvin: 'K',
  degk: 'K',
  millibar: 'mbar',
  hectopascal: 'hPa',
  psia: 'psi',
  psig: 'psi',
  kpaa: 'kPa',
  kpag: 'kPa',
  bara: 'bar',
  barg: 'bar',
  'inh₂o': 'inH2O',
  inwc: 'inH2O',
  '"h2o': 'inH2O',
  'mmh₂o': 'mmH2O',
  mmws: 'mmH2O',
  mmwc: 'mmH2O',
  '"hg': 'inHg',
  percent: '%',
  pct: '%',
  gps: 'g/s',
  'g/sec': 'g/s',
  'kg/hr': 'kg/h',
  kgh: 'kg/h',
  'lbs/min': 'lb/min',
  'lbm/min': 'lb/min',
  ppm: 'lb/min',
  'm3/s': 'm³/s',
  cfm: 'CFM',
  'ft3/min': 'CFM',
  'ft³/min': 'CFM',
  hertz: 'Hz',
  lambda: 'λ',
  la: 'λ',
  deg: '°',
  degree: '°',
  degrees: '°',
  btdc: '°',
  degbtdc: '°',
  '°btdc': '°',
  '°ca': '°',
  degca: '°',
  m2: 'm²',
  cm2: 'cm²',
  in2: 'in²',
  m3: 'm³',
  l: 'L',
  litre: 'L',
  litres: 'L',
  in3: 'in³',
  cc: 'cm³',
  cm3: 'cm³',
  'm3/h': 'm³/h',
  'l/s': 'L/s',
  'l/min': 'L/min',
  inch: 'in',
  '"': 'in',
  'kg/m3': 'kg/m³',
  'j/k': 'J/K',
  'kj/k': 'kJ/K',
  'w/k': 'W/K',
  'g/(kw·h)': 'g/kWh',
  '-': '–',
  '1': '–',
  ratio: '–',
};
const BY_LOWER_CASE = new Map<string, UnitName>((Object.keys(UNITS) as UnitName[]).map((name) => [name.toLowerCase(), name]));

/**
 * The unit that a text means ("km/h", "degC", "lb-ft"), or null where it is none that Gezeit reads.
 * `afr` is not a unit here: it needs the stoichiometric ratio that the device divides by.
 */
export function unitFromText(text: string): UnitName | null {
  const plain = text.trim().replace(/\s+/g, '');
  if (plain in UNITS) return plain as UnitName;
  const lower = plain.toLowerCase();
  return BY_LOWER_CASE.get(lower) ?? SPELLINGS[lower] ?? null;
}

/** Dimension of a unit. */
export function dimensionOf(unit: UnitName): Dimension {
  return UNITS[unit].dimension;
}

/** Value in the unit kept inside (SI; °C, rpm and % as they are). */
export function toSi(value: number, unit: UnitName): number {
  const { factor, offset } = UNITS[unit] as Unit;
  return (value + (offset ?? 0)) * factor;
}

/** Inverse of {@link toSi}. */
export function fromSi(value: number, unit: UnitName): number {
  const { factor, offset } = UNITS[unit] as Unit;
  return value / factor - (offset ?? 0);
}

/** A difference (no offset) in a unit, in the unit kept inside: 18 °F are 10 K. */
export function differenceToSi(value: number, unit: UnitName): number {
  return value * UNITS[unit].factor;
}

/** A difference (no offset) from the unit kept inside to another unit: 10 K are 18 °F. */
export function differenceFromSi(value: number, unit: UnitName): number {
  return value / UNITS[unit].factor;
}

/**
 * Converts between two units of one dimension.
 * @throws GezeitError `unit-mismatch` where the dimensions differ.
 * @example convert(1, 'hp', 'PS') // 1.01387
 */
export function convert(value: number, from: UnitName, to: UnitName): number {
  if (UNITS[from].dimension !== UNITS[to].dimension) {
    throw new GezeitError('unit-mismatch', `${from} cannot be turned into ${to}.`, 'Choose a unit of the same kind.');
  }
  return fromSi(toSi(value, from), to);
}
