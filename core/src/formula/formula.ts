import jsep, { type Expression } from 'jsep';
import { GezeitError } from '../errors.js';
import { seriesAt, type Series } from '../traces/series.js';
import { isUnit } from '../units/shown-unit.js';
import { dimensionOf, UNITS, type Dimension, type UnitName } from '../units/units.js';
import { DIMENSIONS, powersText, samePowers, unitOfPowers, type Powers } from './dimensions.js';

/** How long a formula may be, and how much it may hold. Assumptions. */
const LONGEST = 300;
const MOST_PARTS = 100;
const KELVIN_AT_ZERO_C = 273.15;

/** A channel that a formula may name. */
export interface FormulaChannel {
  name: string;
  dimension: Dimension;
}

/** A formula whose names and units have been checked; its values are in the unit kept inside where it has one, else in SI. */
export interface Formula {
  names: readonly string[];
  /** In which it is shown; null where its SI is written out. */
  unit: UnitName | null;
  unitText: string;
  /** A difference of temperatures has no zero. */
  isDifference: boolean;
  /** @param channels by name: every one that {@link names} lists, over the same axis. */
  evaluate(channels: ReadonlyMap<string, Series>): Series;
}

/** A part of a formula in SI; a temperature on its scale is a point: two of them have a difference, and no sum. */
interface Part {
  powers: Powers;
  isPoint: boolean;
  /** The dimension of what it was made from, as long as it is nothing else. */
  like: Dimension | null;
  values(of: Values): Float64Array;
}

interface Values {
  at: Float64Array;
  channel(name: string): Float64Array;
}

// A power, that binds to its right: the package takes ^ for something of bits.
jsep.removeBinaryOp('^');
jsep.addBinaryOp('^', 12, true);

const PURE: Powers = [0, 0, 0, 0];
const refused = (message: string, nextStep: string) => new GezeitError('bad-formula', message, nextStep);
const kindText = ({ powers, isPoint }: Part) => (isPoint ? 'a temperature' : powersText(powers) || 'a plain number');

/**
 * Reads a formula of channels, checks its names and units, and makes it ready to be evaluated. It may hold channels, numbers, units as factors
 * (2 * kPa), + - * / ^, and abs, sqrt, ln, exp, min, max, rate (per second) and smooth (over so many seconds); nothing else can be said in it.
 * @throws GezeitError `bad-formula`, which names what is wrong and what to write.
 * @example readFormula('pressureDrop / airMassFlow ^ 2', channels).unitText // 'kg⁻¹·m⁻¹'
 */
export function readFormula(text: string, channels: readonly FormulaChannel[]): Formula {
  const plain = text.trim();
  if (plain === '') throw refused('There is nothing in it.', 'Write a channel, such as pressureDrop / ambientPressure.');
  if (plain.length > LONGEST) throw refused(`It is longer than ${LONGEST} letters.`, 'Split it into two.');
  let expression: Expression;
  try {
    expression = jsep(plain);
  } catch (error) {
    const where = (error as { index?: number }).index;
    throw refused(
      where === undefined ? 'It cannot be read.' : `It cannot be read at letter ${where + 1}.`,
      'Write channels, numbers, + - * / ^ and ( ).',
    );
  }
  const names = new Set<string>();
  let parts = 0;
  const part = partOf(expression);
  if (names.size === 0) throw refused('It names no channel.', 'Write at least one of those that are listed.');
  const like = part.like;
  const unit = like ? unitLike(like, part) : unitOfPowers(part.powers);
  const unitText = part.isPoint ? '°C' : (unit ?? powersText(part.powers));
  return {
    names: [...names],
    unit: part.isPoint ? '°C' : unit,
    unitText,
    isDifference: isDifference(part),
    evaluate(given) {
      const series = [...names].map((name) => given.get(name)!);
      const { at } = series.reduce((longest, one) => (one.at.length > longest.at.length ? one : longest));
      const values = part.values({ at, channel: (name) => seriesAt(given.get(name)!, at) });
      return { at, values: toInside(values, part, like) };
    },
  };

  function partOf(node: Expression): Part {
    parts += 1;
    if (parts > MOST_PARTS) throw refused('It holds too much.', 'Split it into two.');
    switch (node.type) {
      case 'Literal':
        return numberPart(node['value']);
      case 'Identifier':
        return namedPart(String(node['name']));
      case 'UnaryExpression':
        return signed(String(node['operator']), partOf(node['argument'] as Expression));
      case 'BinaryExpression':
        return binary(String(node['operator']), partOf(node['left'] as Expression), node['right'] as Expression);
      case 'CallExpression':
        return called(node['callee'] as Expression, node['arguments'] as Expression[]);
      default:
        throw refused('It holds something else than a sum or product of channels.', 'Write channels, numbers, + - * / ^ and ( ).');
    }
  }

  function namedPart(name: string): Part {
    const channel = channels.find((known) => known.name === name);
    if (channel) {
      names.add(name);
      return channelPart(channel);
    }
    if (isUnit(name)) return unitPart(name);
    const close = channels.filter((known) => known.name.toLowerCase().includes(name.toLowerCase())).map((known) => known.name);
    const instead = close.length > 0 ? `Perhaps ${close.slice(0, 3).join(', ')}.` : 'Write one of those that are listed.';
    throw refused(`There is no channel ${name}.`, instead);
  }

  function binary(operator: string, left: Part, rightNode: Expression): Part {
    const right = partOf(rightNode);
    switch (operator) {
      case '+':
      case '-':
        return sum(operator, left, right);
      case '*':
      case '/':
        return product(operator, left, right);
      case '^':
        return power(left, rightNode);
      default:
        throw refused(`${operator} is not known here.`, 'Write + - * / or ^.');
    }
  }

  function called(callee: Expression, given: Expression[]): Part {
    const name = callee.type === 'Identifier' ? String(callee['name']) : '';
    const most = FUNCTIONS.get(name);
    if (most === undefined)
      throw refused(`There is no function ${name || 'of that name'}.`, `There are ${[...FUNCTIONS.keys()].join(', ')}.`);
    if (given.length !== most)
      throw refused(`${name} takes ${most === 1 ? 'one thing' : 'two things'}.`, `Write ${name}(${most === 1 ? 'a' : 'a, b'}).`);
    const [first, second] = given.map(partOf);
    return applied(name, first!, second ?? null, given[1] ?? null);
  }
}

const FUNCTIONS: ReadonlyMap<string, number> = new Map(
  Object.entries({ abs: 1, sqrt: 1, ln: 1, exp: 1, min: 2, max: 2, rate: 1, smooth: 2 }),
);

function numberPart(value: unknown): Part {
  if (typeof value !== 'number' || !Number.isFinite(value))
    throw refused('It holds something that is no number.', 'Write numbers with a point.');
  return { powers: PURE, isPoint: false, like: null, values: ({ at }) => new Float64Array(at.length).fill(value) };
}

/** A unit by itself is a factor: 2 * kPa. */
function unitPart(name: UnitName): Part {
  const dimension = dimensionOf(name);
  const factor = UNITS[name].factor * DIMENSIONS[dimension].factor;
  return {
    powers: DIMENSIONS[dimension].powers,
    isPoint: false,
    like: dimension,
    values: ({ at }) => new Float64Array(at.length).fill(factor),
  };
}

function channelPart({ name, dimension }: FormulaChannel): Part {
  const { powers, factor } = DIMENSIONS[dimension];
  const isPoint = dimension === 'temperature';
  const values = (of: Values) => of.channel(name).map((value) => (isPoint ? value + KELVIN_AT_ZERO_C : value * factor));
  return { powers, isPoint, like: dimension, values };
}

function signed(operator: string, part: Part): Part {
  if (operator === '+') return part;
  if (operator !== '-') throw refused(`${operator} is not known here.`, 'Write + - * / or ^.');
  return { ...notPoint(part), values: (of) => part.values(of).map((value) => -value) };
}

/** On the scale from absolute zero a temperature is a quantity as others are. */
const notPoint = (part: Part): Part => ({ ...part, isPoint: false, like: part.isPoint ? null : part.like });

function sum(operator: '+' | '-', left: Part, right: Part): Part {
  if (!samePowers(left.powers, right.powers))
    throw refused(`${kindText(left)} and ${kindText(right)} cannot be put together.`, 'Put together what has the same unit.');
  if (operator === '+' && left.isPoint && right.isPoint)
    throw refused('Two temperatures have no sum.', 'Take their difference, or add a difference to one.');
  if (operator === '-' && right.isPoint && !left.isPoint)
    throw refused('A temperature cannot be taken from a difference.', 'Turn it round.');
  const sign = operator === '+' ? 1 : -1;
  const isPoint = left.isPoint !== right.isPoint;
  const like = left.like === right.like ? left.like : samePowers(left.powers, PURE) ? null : (left.like ?? right.like);
  return { powers: left.powers, isPoint, like: isPoint ? 'temperature' : like, values: both(left, right, (a, b) => a + sign * b) };
}

function product(operator: '*' | '/', left: Part, right: Part): Part {
  const sign = operator === '*' ? 1 : -1;
  const powers = left.powers.map((power, i) => power + sign * right.powers[i]!) as unknown as Powers;
  const isScaled = samePowers(right.powers, PURE) && right.like === null;
  const isScaledBy = operator === '*' && samePowers(left.powers, PURE) && left.like === null;
  const like = isScaled ? notPoint(left).like : isScaledBy ? notPoint(right).like : null;
  return { powers, isPoint: false, like, values: both(left, right, (a, b) => (operator === '*' ? a * b : a / b)) };
}

function power(base: Part, exponentNode: Expression): Part {
  const exponent = plainNumber(exponentNode);
  if (exponent === null) throw refused('What stands after ^ has to be a number.', 'Write 2, 0.5 or (-1).');
  const powers = base.powers.map((one) => one * exponent) as unknown as Powers;
  return { powers, isPoint: false, like: null, values: (of) => base.values(of).map((value) => value ** exponent) };
}

function plainNumber(node: Expression): number | null {
  if (node.type === 'Literal' && typeof node['value'] === 'number') return node['value'];
  if (node.type !== 'UnaryExpression' || node['operator'] !== '-') return null;
  const inside = plainNumber(node['argument'] as Expression);
  return inside === null ? null : -inside;
}

function applied(name: string, first: Part, second: Part | null, secondNode: Expression | null): Part {
  const each = (change: (value: number) => number, part: Omit<Part, 'values'>): Part => ({
    ...part,
    values: (of) => first.values(of).map(change),
  });
  switch (name) {
    case 'abs':
      return each(Math.abs, notPoint(first));
    case 'sqrt':
      return each(Math.sqrt, { powers: first.powers.map((one) => one / 2) as unknown as Powers, isPoint: false, like: null });
    case 'ln':
    case 'exp':
      if (!samePowers(first.powers, PURE))
        throw refused(`${name} takes a plain number, and this is ${kindText(first)}.`, 'Divide it by one of its kind first.');
      return each(name === 'ln' ? Math.log : Math.exp, { powers: PURE, isPoint: false, like: null });
    case 'rate': {
      const powers = first.powers.map((one, i) => (i === 2 ? one - 1 : one)) as unknown as Powers;
      return { powers, isPoint: false, like: null, values: (of) => ratePerSecond(of.at, first.values(of)) };
    }
    case 'smooth': {
      const overS = secondNode ? plainNumber(secondNode) : null;
      if (overS === null || overS <= 0) throw refused('smooth takes a channel and so many seconds.', 'Write smooth(boostPressure, 0.2).');
      return { ...first, values: (of) => smoothed(of.at, first.values(of), overS) };
    }
    default: {
      const other = second!;
      if (!samePowers(first.powers, other.powers) || first.isPoint !== other.isPoint)
        throw refused(`${name} takes two of the same unit.`, `These are ${kindText(first)} and ${kindText(other)}.`);
      return {
        ...first,
        like: first.like === other.like ? first.like : null,
        values: both(first, other, name === 'min' ? Math.min : Math.max),
      };
    }
  }
}

const both = (left: Part, right: Part, join: (a: number, b: number) => number) => (of: Values) => {
  const b = right.values(of);
  return left.values(of).map((value, i) => join(value, b[i]!));
};

/** Change a second, by the neighbours on either side. */
function ratePerSecond(at: Float64Array, values: Float64Array): Float64Array {
  return values.map((_, i) => {
    const [before, after] = [Math.max(0, i - 1), Math.min(values.length - 1, i + 1)];
    return (values[after]! - values[before]!) / (at[after]! - at[before]!);
  });
}

/** Mean over so many seconds around each sample; of a stretch with blanks, of what is known. */
function smoothed(at: Float64Array, values: Float64Array, overS: number): Float64Array {
  let [from, to, total, count] = [0, 0, 0, 0];
  const add = (value: number, sign: 1 | -1) => {
    if (!Number.isFinite(value)) return;
    total += sign * value;
    count += sign;
  };
  return values.map((_, i) => {
    while (to < at.length && at[to]! <= at[i]! + overS / 2) add(values[to++]!, 1);
    while (at[from]! < at[i]! - overS / 2) add(values[from++]!, -1);
    return count > 0 ? total / count : Number.NaN;
  });
}

/** Per cent of a sum of shares stays per cent, rpm stay rpm; what became something else is shown by its powers. */
function unitLike(like: Dimension, part: Part): UnitName | null {
  if (like === 'temperature') return part.isPoint ? '°C' : 'K';
  const unit = (Object.keys(UNITS) as UnitName[]).find((name) => UNITS[name].dimension === like && UNITS[name].factor === 1);
  return unitOfPowers(part.powers) && !['rotation', 'ratio', 'angle', 'lambda', 'sound'].includes(like)
    ? unitOfPowers(part.powers)
    : (unit ?? null);
}

const isDifference = ({ powers, isPoint }: Part) => samePowers(powers, DIMENSIONS.temperature.powers) && !isPoint;

/** From SI to the unit that is kept inside. */
function toInside(values: Float64Array, part: Part, like: Dimension | null): Float64Array {
  if (part.isPoint) return values.map((value) => value - KELVIN_AT_ZERO_C);
  const factor = like ? DIMENSIONS[like].factor : 1;
  return factor === 1 ? values : values.map((value) => value / factor);
}
