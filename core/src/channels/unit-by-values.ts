import type { Quantity } from '@gezeit/contract';
import { toSi, type UnitName } from '../units/units.js';
import type { ColumnFacts } from './column-facts.js';
import { EXPECTATIONS, type Expectation } from './expectations.js';

/** How values that lie outside what is expected count, as log-odds. Assumptions. */
const OUTSIDE = { first: -1.5, perWidth: -6, perFold: 1.5, most: -10 };
/** A unit further down a quantity's list of usual ones is this much less likely. */
const LATER_UNIT = -0.35;
/** And one that is hardly met. */
const RARE_UNIT = -1.5;
/** A unit that others of the file are written in, and one of the system that the file keeps to. */
const SAME_UNIT = 2.5;
const SAME_SYSTEM = 2.2;

const METRIC = new Set<UnitName>(['°C', 'kPa', 'bar', 'mbar', 'hPa', 'km/h', 'N·m', 'kW', 'PS', 'g/s', 'kg/h', 'm/s']);
const IMPERIAL = new Set<UnitName>(['°F', 'psi', 'inHg', 'inH2O', 'mph', 'lb·ft', 'hp', 'lb/min']);

/** What the rest of the file says of its units. */
export interface UnitContext {
  /** Units that are written in the file. */
  written: ReadonlySet<UnitName>;
  system: 'metric' | 'imperial' | null;
}

/** The system that most of some units belong to; null where they do not say. */
export function systemOf(units: Iterable<UnitName>): UnitContext['system'] {
  let [metric, imperial] = [0, 0];
  for (const unit of units) {
    // Power is given in it all over the world, and temperatures beside it in either unit.
    if (unit === 'hp') continue;
    if (METRIC.has(unit)) metric += 1;
    if (IMPERIAL.has(unit)) imperial += 1;
  }
  if (metric > imperial) return 'metric';
  return imperial > metric ? 'imperial' : null;
}

/** How well values fit a quantity in a unit, as log-odds: 0 where all lies within what is expected. */
export function fitOf(quantity: Quantity, facts: ColumnFacts, inside: (written: number) => number, gauge: boolean | null): number {
  const expected = EXPECTATIONS[quantity];
  const ways: [readonly [number, number], readonly [number, number]][] = [];
  if (gauge !== true) ways.push([expected.bottom, expected.top]);
  if (gauge !== false && expected.gaugeBottom && expected.gaugeTop) ways.push([expected.gaugeBottom, expected.gaugeTop]);
  if (ways.length === 0) ways.push([expected.bottom, expected.top]);
  const isShare = expected.dimension !== 'temperature';
  const fits = ways.map(([bottom, top]) => outside(inside(facts.bottom), bottom, isShare) + outside(inside(facts.top), top, isShare));
  return Math.max(OUTSIDE.most, Math.max(...fits) + unsteady(expected, facts, inside));
}

/** How usual the highest values of a quantity are, as log-odds: for telling units apart, beside {@link fitOf}. */
export function usualOf(quantity: Quantity, top: number): number {
  const { dimension, mostlyTop, oftenBeyond } = EXPECTATIONS[quantity];
  if (!mostlyTop || (top >= mostlyTop[0] && top <= mostlyTop[1])) return 0;
  return oftenBeyond ? OUTSIDE.first : Math.max(OUTSIDE.most, outside(top, mostlyTop, dimension !== 'temperature'));
}

function outside(value: number, [low, high]: readonly [number, number], isShare: boolean): number {
  if (!(value < low) && !(value > high)) return 0;
  const width = Math.max(high - low, 1e-9);
  const away = value < low ? low - value : value - high;
  const linear = (OUTSIDE.perWidth * away) / width;
  // What is a hundredth of the least is far off, however wide the range is.
  const edge = value < low ? low : high;
  const byRatio = isShare && value > 0 && edge > 0 ? -OUTSIDE.perFold * Math.abs(Math.log(value / edge)) : 0;
  return OUTSIDE.first + Math.min(linear, byRatio);
}

function unsteady({ steadyWithin }: Expectation, facts: ColumnFacts, inside: (written: number) => number): number {
  if (steadyWithin === undefined) return 0;
  const span = inside(facts.top) - inside(facts.bottom);
  return span > steadyWithin ? Math.max(-5, -1.5 * (span / steadyWithin)) : 0;
}

/** An opening that goes from nearly shut to open, as a share of one: nothing else lies so. */
const SHARE_OF_ONE = { least: 0.6, most: 1.06 };
const isShareOfOne = ({ low, high }: ColumnFacts) => low >= -0.05 && high >= SHARE_OF_ONE.least && high <= SHARE_OF_ONE.most;

export interface JudgedUnit {
  unit: UnitName;
  fit: number;
  /** How sure the unit is among those that it could be. */
  share: number;
  rivals: UnitName[];
}

/** The unit of values that name none: the one in which they lie where the quantity does. */
export function judgeUnit(
  quantity: Quantity,
  facts: ColumnFacts,
  gauge: boolean | null,
  { written, system }: UnitContext,
  hints?: ReadonlyMap<UnitName, number>,
): JudgedUnit | null {
  const { units, rareUnit } = EXPECTATIONS[quantity];
  if (units.length === 0 || facts.count === 0) return null;
  const tried = units
    .filter((unit) => unit !== 'fraction' || isShareOfOne(facts))
    .map((unit, i) => {
      const fit = fitOf(quantity, facts, (value) => toSi(value, unit), gauge);
      const usual = usualOf(quantity, toSi(facts.top, unit));
      const inSystem = system === 'metric' ? METRIC.has(unit) : system === 'imperial' && IMPERIAL.has(unit);
      return {
        unit,
        fit,
        weight:
          fit +
          usual +
          LATER_UNIT * i +
          (unit === rareUnit ? RARE_UNIT : 0) +
          (written.has(unit) ? SAME_UNIT : 0) +
          (inSystem ? SAME_SYSTEM : 0) +
          (hints?.get(unit) ?? 0),
      };
    });
  tried.sort((a, b) => b.weight - a.weight);
  const all = tried.reduce((sum, { weight }) => sum + Math.exp(weight), 0);
  const best = tried[0]!;
  return {
    unit: best.unit,
    fit: best.fit,
    share: Math.exp(best.weight) / all,
    rivals: tried
      .slice(1)
      .filter(({ weight }) => Math.exp(weight) > 0.05 * all)
      .map(({ unit }) => unit),
  };
}
