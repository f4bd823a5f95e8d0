import type { Dimension, UnitName } from '../units/units.js';

/** Powers of metre, kilogram, second and kelvin. */
export type Powers = readonly [metre: number, kilogram: number, second: number, kelvin: number];

/** A dimension in SI: its powers, and how the unit that is kept inside becomes SI. */
interface InSi {
  powers: Powers;
  factor: number;
}

const PURE: Powers = [0, 0, 0, 0];
const si = (powers: Powers, factor = 1): InSi => ({ powers, factor });

/** Inside rpm are per minute and shares are per cent: a product wants radians per second and fractions. */
export const DIMENSIONS: Readonly<Record<Dimension, InSi>> = {
  time: si([0, 0, 1, 0]),
  rotation: si([0, 0, -1, 0], (2 * Math.PI) / 60),
  speed: si([1, 0, -1, 0]),
  power: si([2, 1, -3, 0]),
  torque: si([2, 1, -2, 0]),
  temperature: si([0, 0, 0, 1]),
  pressure: si([-1, 1, -2, 0]),
  ratio: si(PURE, 0.01),
  massFlow: si([0, 1, -1, 0]),
  volumeFlow: si([3, 0, -1, 0]),
  frequency: si([0, 0, -1, 0]),
  lambda: si(PURE),
  angle: si(PURE, Math.PI / 180),
  area: si([2, 0, 0, 0]),
  volume: si([3, 0, 0, 0]),
  factor: si(PURE),
  length: si([1, 0, 0, 0]),
  mass: si([0, 1, 0, 0]),
  density: si([-3, 1, 0, 0]),
  heatCapacity: si([2, 1, -2, -1]),
  conductance: si([2, 1, -3, -1]),
  specificHeat: si([2, 0, -2, -1]),
  flowResistance: si([-2, 1, -1, 0]),
  specificFuel: si([-2, 0, 2, 0]),
  sound: si(PURE),
};

/** What a result is shown in where nothing says better; of several dimensions with the same powers, the first. */
const SHOWN: readonly [Dimension, UnitName][] = [
  ['factor', '–'],
  ['power', 'kW'],
  ['torque', 'N·m'],
  ['pressure', 'kPa'],
  ['massFlow', 'g/s'],
  ['volumeFlow', 'm³/s'],
  ['speed', 'km/h'],
  ['time', 's'],
  ['frequency', 'Hz'],
  ['area', 'cm²'],
  ['volume', 'L'],
  ['length', 'm'],
  ['mass', 'kg'],
  ['density', 'kg/m³'],
  ['heatCapacity', 'kJ/K'],
  ['conductance', 'W/K'],
  ['specificHeat', 'J/(kg·K)'],
];

export const samePowers = (a: Powers, b: Powers): boolean => a.every((power, i) => Math.abs(power - b[i]!) < 1e-9);

/** The unit for a result of these powers; null where there is none, and SI is written out. */
export function unitOfPowers(powers: Powers): UnitName | null {
  return SHOWN.find(([dimension]) => samePowers(DIMENSIONS[dimension].powers, powers))?.[1] ?? null;
}

const SUPERSCRIPTS: Record<string, string> = {
  '-': '⁻',
  '.': '·',
  0: '⁰',
  1: '¹',
  2: '²',
  3: '³',
  4: '⁴',
  5: '⁵',
  6: '⁶',
  7: '⁷',
  8: '⁸',
  9: '⁹',
};

/** Powers in SI as a text: kg·m⁻¹·s⁻². */
export function powersText(powers: Powers): string {
  const [metre, kilogram, second, kelvin] = powers;
  return (
    [
      ['kg', kilogram],
      ['m', metre],
      ['s', second],
      ['K', kelvin],
    ] as const
  )
    .filter(([, power]) => power !== 0)
    .sort(([, a], [, b]) => Number(b > 0) - Number(a > 0))
    .map(([name, power]) =>
      power === 1 ? name : name + [...String(Number(power.toFixed(2)))].map((digit) => SUPERSCRIPTS[digit]).join(''),
    )
    .join('·');
}
