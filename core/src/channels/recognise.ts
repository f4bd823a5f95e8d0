import type { Quantity } from '@gezeit/contract';
import { type Dimension, type UnitName } from '../units/units.js';
import { unitFromText } from '../units/unit-spellings.js';

/** What a quantity is measured in, and the unit that its name alone implies (null: without a unit it is not recognised). */
export const QUANTITY_UNITS: Record<Quantity, { dimension: Dimension; implied: UnitName | null }> = {
  time: { dimension: 'time', implied: null },
  engineSpeed: { dimension: 'rotation', implied: 'rpm' },
  vehicleSpeed: { dimension: 'speed', implied: null },
  rollerSpeed: { dimension: 'speed', implied: null },
  power: { dimension: 'power', implied: null },
  torque: { dimension: 'torque', implied: null },
  throttle: { dimension: 'ratio', implied: '%' },
  pedal: { dimension: 'ratio', implied: '%' },
  ambientTemperature: { dimension: 'temperature', implied: '°C' },
  ambientPressure: { dimension: 'pressure', implied: null },
  relativeHumidity: { dimension: 'ratio', implied: '%' },
  coolingAirTemperature: { dimension: 'temperature', implied: '°C' },
  manifoldPressure: { dimension: 'pressure', implied: null },
  boostPressure: { dimension: 'pressure', implied: null },
  intakeAirTemperature: { dimension: 'temperature', implied: '°C' },
  inletTemperature: { dimension: 'temperature', implied: '°C' },
  compressorOutTemperature: { dimension: 'temperature', implied: '°C' },
  coolerOutTemperature: { dimension: 'temperature', implied: '°C' },
  inletPressure: { dimension: 'pressure', implied: null },
  pressureDrop: { dimension: 'pressure', implied: null },
  airMassFlow: { dimension: 'massFlow', implied: null },
  airMeterFrequency: { dimension: 'frequency', implied: 'Hz' },
  lambda: { dimension: 'lambda', implied: 'λ' },
  ignitionAdvance: { dimension: 'angle', implied: '°' },
  knockRetard: { dimension: 'angle', implied: '°' },
  injectorTime: { dimension: 'time', implied: 'ms' },
  shortTermTrim: { dimension: 'ratio', implied: '%' },
  longTermTrim: { dimension: 'ratio', implied: '%' },
  coolantTemperature: { dimension: 'temperature', implied: '°C' },
  oilTemperature: { dimension: 'temperature', implied: '°C' },
  coolantInTemperature: { dimension: 'temperature', implied: '°C' },
  coolantOutTemperature: { dimension: 'temperature', implied: '°C' },
  compressorSpeed: { dimension: 'rotation', implied: 'rpm' },
  wastegateDuty: { dimension: 'ratio', implied: '%' },
  correctionFactor: { dimension: 'factor', implied: '–' },
};

interface Rule {
  quantity: Quantity;
  /** Every group must be met by one of its words. */
  words: string[][];
  not?: string[];
}

const TEMPERATURE = ['temp', 'temperature', 'temperatur', 't'];
const PRESSURE = ['press', 'pressure', 'druck', 'p'];
const SPEED = ['speed', 'velocity', 'geschwindigkeit'];
/** What runs through a water circuit. */
const COOLANT = ['coolant', 'water', 'kühlmittel', 'kuehlmittel', 'kühlwasser', 'kuehlwasser', 'wasser'];
const TARGETS = ['target', 'setpoint', 'desired', 'requested', 'soll', 'error', 'limit'];

/** Rules in order: the first that fits wins. Words of the field in English and German; no product's list. */
const RULES: Rule[] = [
  {
    quantity: 'time',
    words: [['time', 'zeit', 'timestamp', 'clock', 'elapsed', 'uhrzeit']],
    not: ['injector', 'injection', 'inj', 'ignition', 'pulse', 'lap', 'dwell', 'opening'],
  },
  {
    quantity: 'correctionFactor',
    words: [
      ['correction', 'corr', 'korrektur'],
      ['factor', 'faktor'],
    ],
  },
  {
    quantity: 'compressorSpeed',
    words: [
      ['compressor', 'turbo', 'turbine', 'shaft', 'blower'],
      ['speed', 'rpm', 'drehzahl'],
    ],
  },
  {
    quantity: 'rollerSpeed',
    words: [
      ['roller', 'drum', 'rolle', 'rollen'],
      [...SPEED, 'rpm', 'drehzahl'],
    ],
  },
  {
    quantity: 'engineSpeed',
    words: [['rpm', 'drehzahl', 'enginespeed', 'revs', 'motordrehzahl']],
    not: ['roller', 'drum', 'turbo', 'turbine', 'shaft', 'wheel', ...TARGETS],
  },
  {
    quantity: 'engineSpeed',
    words: [
      ['engine', 'motor', 'crank', 'crankshaft'],
      ['speed', 'drehzahl', 'n'],
    ],
    not: TARGETS,
  },
  { quantity: 'vehicleSpeed', words: [['vehicle', 'car', 'road', 'wheel', 'fahrzeug'], SPEED], not: TARGETS },
  { quantity: 'vehicleSpeed', words: [['vss', 'geschwindigkeit']] },
  {
    quantity: 'wastegateDuty',
    words: [
      ['wastegate', 'wg', 'wgdc', 'ladedruckregelventil'],
      ['duty', 'position', 'pwm', 'cycle', 'dc', 'tastverhaeltnis'],
    ],
  },
  {
    quantity: 'pressureDrop',
    words: [['drop', 'differential', 'delta', 'dp', 'differenzdruck', 'druckabfall', 'restriction', 'depression']],
    not: ['inlet', 'temp', 'temperature'],
  },
  {
    quantity: 'inletPressure',
    words: [
      ['inlet', 'intake', 'precompressor', 'prethrottle', 'preturbo', 'airbox'],
      [...PRESSURE, 'vacuum', 'depression', 'unterdruck'],
    ],
    not: ['manifold', ...TARGETS],
  },
  { quantity: 'boostPressure', words: [['boost', 'ladedruck', 'gauge']], not: ['duty', 'temp', 'temperature', ...TARGETS] },
  { quantity: 'manifoldPressure', words: [['map', 'saugrohrdruck']], not: ['number', 'switch', 'version', ...TARGETS] },
  { quantity: 'manifoldPressure', words: [['manifold', 'plenum', 'charge', 'saugrohr'], PRESSURE], not: TARGETS },
  {
    quantity: 'ambientPressure',
    words: [
      ['ambient', 'baro', 'barometer', 'barometric', 'atmospheric', 'station', 'cell', 'room', 'luftdruck', 'umgebungsdruck', 'weather'],
      [...PRESSURE, 'baro', 'barometer', 'luftdruck', 'umgebungsdruck'],
    ],
  },
  { quantity: 'ambientPressure', words: [['baro', 'barometer', 'luftdruck']] },
  { quantity: 'relativeHumidity', words: [['humidity', 'rh', 'feuchte', 'luftfeuchte', 'feuchtigkeit']] },
  {
    quantity: 'coolantInTemperature',
    words: [COOLANT, ['in', 'inlet', 'supply', 'entry', 'vorlauf', 'ein', 'eintritt'], TEMPERATURE],
    not: ['oil', 'out', 'outlet', 'return', 'exit'],
  },
  {
    quantity: 'coolantOutTemperature',
    words: [COOLANT, ['out', 'outlet', 'return', 'exit', 'rücklauf', 'ruecklauf', 'aus', 'austritt'], TEMPERATURE],
    not: ['oil'],
  },
  {
    quantity: 'compressorOutTemperature',
    words: [
      ['compressor', 'verdichter', 'turbo', 'blower', 'precooler'],
      ['out', 'outlet', 'discharge', 'after', 'post', 'nach', 'precooler'],
      [...TEMPERATURE, 'outlet'],
    ],
    not: ['pressure', 'press', 'speed'],
  },
  {
    quantity: 'coolerOutTemperature',
    words: [
      ['cooler', 'intercooler', 'kuehler', 'ladeluftkuehler', 'charge', 'postcooler', 'aftercooler'],
      ['out', 'outlet', 'after', 'post', 'nach', 'postcooler'],
      TEMPERATURE,
    ],
    not: ['pressure', 'press', 'coolant', 'water'],
  },
  { quantity: 'coolingAirTemperature', words: [['cooling', 'core', 'face', 'fan'], ['air', 'face'], TEMPERATURE] },
  {
    quantity: 'inletTemperature',
    words: [['inlet', 'precompressor', 'prethrottle', 'airbox', 'box', 'snorkel'], TEMPERATURE],
    not: ['manifold', 'intake'],
  },
  { quantity: 'intakeAirTemperature', words: [['iat', 'act', 'mat', 'ansauglufttemperatur', 'ladelufttemperatur']] },
  {
    quantity: 'intakeAirTemperature',
    words: [['intake', 'manifold', 'charge', 'plenum', 'ansaugluft', 'ladeluft'], TEMPERATURE],
    not: [...COOLANT, 'oil', 'surface', 'wall'],
  },
  {
    quantity: 'oilTemperature',
    words: [
      ['oil', 'oel', 'öl', 'öltemperatur', 'oeltemperatur'],
      [...TEMPERATURE, 'öltemperatur', 'oeltemperatur'],
    ],
  },
  {
    quantity: 'coolantTemperature',
    words: [
      ['coolant', 'ect', 'clt', 'water', 'kühlmittel', 'kuehlmittel', 'wassertemperatur', 'kühlmitteltemperatur'],
      [...TEMPERATURE, 'ect', 'clt', 'wassertemperatur', 'kühlmitteltemperatur'],
    ],
    // The circuit of a charge cooler is another one than the engine's.
    not: ['charge', 'cooler', 'intercooler', 'ladeluft', 'ladeluftkühler', 'ladeluftkuehler', 'lowtemp'],
  },
  {
    quantity: 'ambientTemperature',
    words: [
      ['ambient', 'air', 'cell', 'room', 'weather', 'outside', 'umgebung', 'umgebungstemperatur'],
      [...TEMPERATURE, 'umgebungstemperatur'],
    ],
    not: ['intake', 'manifold', 'charge', 'inlet'],
  },
  {
    quantity: 'throttle',
    words: [['throttle', 'tps', 'drosselklappe', 'butterfly']],
    not: [...TARGETS, 'temp', 'temperature', 'pressure', 'press'],
  },
  { quantity: 'pedal', words: [['pedal', 'accelerator', 'app', 'fahrpedal']], not: ['brake', 'clutch'] },
  {
    quantity: 'airMeterFrequency',
    words: [
      ['maf', 'meter', 'airflow', 'luftmasse'],
      ['freq', 'frequency', 'hz', 'frequenz'],
    ],
  },
  { quantity: 'airMassFlow', words: [['maf', 'massflow', 'airmass', 'luftmasse', 'luftmassenstrom']], not: TARGETS },
  {
    quantity: 'airMassFlow',
    words: [
      ['air', 'mass', 'meter'],
      ['mass', 'flow'],
    ],
    not: TARGETS,
  },
  { quantity: 'lambda', words: [['lambda', 'afr', 'mixture', 'wideband', 'gemisch']], not: TARGETS },
  { quantity: 'lambda', words: [['air'], ['fuel'], ['ratio']], not: TARGETS },
  {
    quantity: 'knockRetard',
    words: [
      ['knock', 'klopf'],
      ['retard', 'correction', 'retardation', 'sum', 'pull', 'rückzug'],
    ],
  },
  {
    quantity: 'ignitionAdvance',
    words: [
      ['ignition', 'spark', 'timing', 'zündung', 'zuendung', 'zündwinkel', 'zuendwinkel'],
      ['advance', 'angle', 'timing', 'btdc', 'zündwinkel', 'zuendwinkel', 'winkel'],
    ],
    not: TARGETS,
  },
  {
    quantity: 'ignitionAdvance',
    words: [['ignition', 'spark', 'zündwinkel', 'zuendwinkel']],
    not: ['cut', 'dwell', 'coil', 'time', ...TARGETS],
  },
  {
    quantity: 'injectorTime',
    words: [
      ['injector', 'injection', 'inj', 'einspritz'],
      ['time', 'pulse', 'width', 'pw', 'duration', 'zeit'],
    ],
  },
  { quantity: 'injectorTime', words: [['einspritzzeit']] },
  {
    quantity: 'shortTermTrim',
    words: [
      ['short', 'stft'],
      ['trim', 'term', 'stft'],
    ],
  },
  {
    quantity: 'longTermTrim',
    words: [
      ['long', 'ltft'],
      ['trim', 'term', 'ltft'],
    ],
  },
  { quantity: 'torque', words: [['torque', 'drehmoment', 'moment']], not: TARGETS },
  { quantity: 'power', words: [['power', 'leistung', 'radleistung']], not: ['steering', 'supply', 'loss', ...TARGETS] },
  // A unit of power beside the place where it is taken: "Wheel HP".
  {
    quantity: 'power',
    words: [
      ['wheel', 'engine', 'crank', 'hub', 'flywheel', 'motor'],
      ['hp', 'whp', 'bhp', 'kw', 'ps'],
    ],
    not: [...TARGETS, 'loss'],
  },
];

/** A header taken apart: what it is called, and the unit it names. */
export interface HeaderParts {
  name: string;
  unitText: string | null;
}

/**
 * What a header says: its name, its unit, and the quantity that it means by words of the field. The whole header counts before a last word
 * that is a unit is cut off: in "Engine RPM" it belongs to the name as well.
 */
export function readHeader(header: string): HeaderParts & { quantity: Quantity | null } {
  const { name, unitText } = splitHeader(header);
  const byCut = quantityFromName(name);
  const isCut = unitText !== null && !BRACKETS.test(header.trim());
  const byWhole = isCut ? quantityFromName(header) : null;
  if (byWhole === null || byWhole === byCut) return { name, unitText, quantity: byCut };
  return { name: header.trim(), unitText, quantity: byWhole };
}

const BRACKETS = /^(.*?)\s*[[({<]\s*([^\])}>]*)\s*[\])}>]\s*$/;

/** Splits "Engine speed [rpm]" into name and unit text. */
export function splitHeader(header: string): HeaderParts {
  const text = header.trim();
  const match = BRACKETS.exec(text);
  if (match?.[1]) return { name: match[1].trim(), unitText: match[2]!.trim() || null };
  const parts = text.split(/[\s_]+/);
  const last = parts.at(-1) ?? '';
  if (
    parts.length > 1 &&
    (unitFromText(last) !== null || last.toLowerCase() === 'afr') &&
    !/^(c|f|l|h|min|1|-|t|p|n|k|s|la)$/i.test(last)
  ) {
    return { name: parts.slice(0, -1).join(' '), unitText: last };
  }
  return { name: text, unitText: null };
}

/** Lower-case words of a name: camelCase, underscores, digits and punctuation part them. */
export function wordsOf(name: string): string[] {
  return name
    .replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{L})(\d)/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\d]+/u)
    .filter(Boolean);
}

/** The quantity that a column's name means by words of the field, or null. */
export function quantityFromName(name: string): Quantity | null {
  const words = wordsOf(name);
  const joined = new Set([...words, ...words.slice(1).map((word, index) => words[index]! + word)]);
  for (const rule of RULES) {
    if (rule.not?.some((word) => joined.has(word))) continue;
    if (rule.words.every((group) => group.some((word) => joined.has(word)))) return rule.quantity;
  }
  return null;
}

/** A section named in a pressure drop's header: "Pressure drop filter" gives "filter". */
export function sectionFromName(name: string): string | null {
  const known = ['filter', 'duct', 'tract', 'cooler', 'box', 'snorkel', 'hose', 'housing', 'element'];
  return wordsOf(name).find((word) => known.includes(word)) ?? null;
}

/** Whether a row holds units rather than names or values. */
export function looksLikeUnits(row: string[]): boolean {
  const cells = row.map((cell) => cell.trim().replace(/^[[(]|[\])]$/g, '')).filter((cell) => cell !== '');
  const units = cells.filter((cell) => unitFromText(cell) !== null || /^(afr|h+:m+:s+.*|hh?:mm:ss|[a-z]+:[a-z]+)$/i.test(cell)).length;
  return cells.length > 0 && units >= 0.6 * cells.length;
}
