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
  µs: { dimension: 'time', factor: 1e-6 },
  min: { dimension: 'time', factor: 60 },
  h: { dimension: 'time', factor: 3600 },
  rpm: { dimension: 'rotation', factor: 1 },
  'm/s': { dimension: 'speed', factor: 1 },
  'km/h': { dimension: 'speed', factor: 1 / 3.6 },
  mph: { dimension: 'speed', factor: 0.44704 },
  'ft/s': { dimension: 'speed', factor: FOOT_M },
  'ft/min': { dimension: 'speed', factor: FOOT_M / 60 },
  W: { dimension: 'power', factor: 1 },
  kW: { dimension: 'power', factor: 1000 },
  hp: { dimension: 'power', factor: 550 * FOOT_M * POUND_FORCE_N },
  PS: { dimension: 'power', factor: 75 * STANDARD_GRAVITY },
  'N·m': { dimension: 'torque', factor: 1 },
  'lb·ft': { dimension: 'torque', factor: FOOT_M * POUND_FORCE_N },
  'daN·m': { dimension: 'torque', factor: 10 },
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
  'kgf/cm²': { dimension: 'pressure', factor: STANDARD_GRAVITY * 1e4 },
  atm: { dimension: 'pressure', factor: 101325 },
  inHg: { dimension: 'pressure', factor: 13595.1 * STANDARD_GRAVITY * INCH_M },
  mmHg: { dimension: 'pressure', factor: 13595.1 * STANDARD_GRAVITY * 1e-3 },
  inH2O: { dimension: 'pressure', factor: 1000 * STANDARD_GRAVITY * INCH_M },
  mmH2O: { dimension: 'pressure', factor: STANDARD_GRAVITY },
  '%': { dimension: 'ratio', factor: 1 },
  fraction: { dimension: 'ratio', factor: 100 },
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
