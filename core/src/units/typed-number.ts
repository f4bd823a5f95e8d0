import { differenceFromSi, dimensionOf, toSi, UNITS, type UnitName } from './units.js';
import { unitFromText } from './unit-spellings.js';

/** What a typed text was understood as; the value in the unit kept inside. */
export type TypedNumber = { understood: true; value: number; unit: UnitName } | { understood: false; problem: string };

const NUMBER = /^([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d+)?)\s*(.*)$/i;
const THOUSANDS = /^[+-]?\d{1,3}(?:[.,]\d{3})+[.,]\d+|^[+-]?\d{1,3}(?:[.,]\d{3}){2,}|\d[ '’]\d{3}/;

/**
 * A number as people type it: comma or point as decimal mark, never thousands separators, a unit with it or the expected one. A share
 * (unit "–") may be typed as per cent. `difference` reads temperatures without their zero.
 * @example typedNumber('25 inH2O', 'kPa') // 6227.2 Pa
 */
export function typedNumber(text: string, expected: UnitName, difference = false): TypedNumber {
  const plain = text.trim().replace(/^[−–](?=[\d.,])/, '-');
  if (plain === '') return { understood: false, problem: 'Type a number.' };
  if (THOUSANDS.test(plain)) return { understood: false, problem: `“${text.trim()}”: write it without thousands separators.` };
  const match = NUMBER.exec(plain);
  if (!match)
    return { understood: false, problem: `“${text.trim()}” is no number. Type one, with its unit if it is not ${unitWord(expected)}.` };
  const amount = Number(match[1]!.replace(',', '.'));
  const unitText = match[2]!;
  const wanted = dimensionOf(expected);
  if (!Number.isFinite(amount)) return { understood: false, problem: `“${text.trim()}” is too large.` };
  if (unitText === '%' && wanted === 'factor') return { understood: true, value: amount / 100, unit: '–' };
  const unit = unitText === '' ? expected : unitFromText(unitText);
  if (!unit) return { understood: false, problem: `“${unitText}” is no unit that Gezeit reads. Use ${choices(expected)}.` };
  if (dimensionOf(unit) !== wanted) return { understood: false, problem: `${unit} is another kind of quantity. Use ${choices(expected)}.` };
  return { understood: true, value: difference ? amount * UNITS[unit].factor : toSi(amount, unit), unit };
}

const unitWord = (unit: UnitName) => (unit === '–' ? 'a plain number' : unit);

/** Units that a field takes, the expected one first. */
function choices(expected: UnitName): string {
  const same = (Object.keys(UNITS) as UnitName[]).filter((unit) => unit !== expected && dimensionOf(unit) === dimensionOf(expected));
  return [expected === '–' ? 'a plain number or %' : expected, ...same].join(', ');
}

/** A value from the unit kept inside as a text that {@link typedNumber} reads back, to so many significant figures, without the unit. */
export function numberText(value: number, unit: UnitName, difference = false, significant = 5): string {
  const shown = difference
    ? differenceFromSi(value, unit)
    : value / UNITS[unit].factor - (('offset' in UNITS[unit] ? UNITS[unit].offset : 0) as number);
  return String(Number(shown.toPrecision(significant)));
}
