import type { Quantity } from '@gezeit/contract';
import { median } from '../numeric/means.js';
import { toSi, type UnitName } from '../units/units.js';
import type { ColumnFacts } from './column-facts.js';
import { EXPECTATIONS } from './expectations.js';
import { fitOf, usualOf } from './unit-by-values.js';

/** A column as the relations see it: what its name means most likely, in which unit it is written, and its values as written. */
export interface RelatedColumn {
  quantity: Quantity | null;
  /** Null where none is written. */
  unit: UnitName | null;
  values: Float64Array;
  facts: ColumnFacts | null;
}

/** What is known of a unit that is not written: log-odds by unit. */
export type UnitHints = ReadonlyMap<UnitName, number>;

/** How much the relations between columns count, as log-odds, and what they expect. Assumptions. */
const RELATIONS = {
  holds: 4,
  /** Manifold less boost pressure is the air outside, Pa. */
  outsidePa: [82_000, 107_000] as const,
  /** Power over torque times speed is one within this. */
  powerShare: 0.02,
  /** Air taken in over what a litre would take, L: engines of cars, times their filling. */
  filledL: [0.55, 6.5] as const,
  /** What the drops before the inlet take off its pressure, within this factor. */
  dropFactor: 1.6,
};

/** What physics says of units that are not written: of each column, from its relation to the others. */
export function unitHints(columns: readonly RelatedColumn[]): UnitHints[] {
  const hints = columns.map(() => new Map<UnitName, number>());
  const add = (index: number, unit: UnitName, odds: number) => hints[index]!.set(unit, (hints[index]!.get(unit) ?? 0) + odds);
  temperatures(columns, add);
  outsideAir(columns, add);
  powerAndTorque(columns, add);
  airTakenIn(columns, add);
  dropsBeforeInlet(columns, add);
  return hints;
}

type Add = (index: number, unit: UnitName, odds: number) => void;

const find = (columns: readonly RelatedColumn[], ...quantities: Quantity[]): number =>
  columns.findIndex(({ quantity, facts }) => quantity !== null && quantities.includes(quantity) && (facts?.count ?? 0) > 0);
const unitsOf = ({ quantity, unit }: RelatedColumn): readonly UnitName[] => (unit ? [unit] : EXPECTATIONS[quantity!].units);

/** A file's temperatures are in one unit: the one in which all of them lie where they would. */
function temperatures(columns: readonly RelatedColumn[], add: Add): void {
  const own = columns.flatMap(({ quantity, facts, unit }, i) =>
    quantity && facts && facts.count > 0 && EXPECTATIONS[quantity].dimension === 'temperature' ? [{ quantity, facts, unit, i }] : [],
  );
  const open = own.filter(({ unit }) => unit === null);
  if (open.length < 2) return;
  const fits = (['°C', '°F', 'K'] as const).map(
    (unit) =>
      [
        unit,
        open.reduce(
          (sum, { quantity, facts }) =>
            sum + fitOf(quantity, facts, (value) => toSi(value, unit), null) + usualOf(quantity, toSi(facts.top, unit)),
          0,
        ),
      ] as const,
  );
  const best = Math.max(...fits.map(([, fit]) => fit));
  for (const [unit, fit] of fits) for (const { i } of open) add(i, unit, Math.max(-8, fit - best));
}

/** Manifold less boost pressure is the pressure outside. */
function outsideAir(columns: readonly RelatedColumn[], add: Add): void {
  const [manifold, boost] = [find(columns, 'manifoldPressure'), find(columns, 'boostPressure')];
  if (manifold < 0 || boost < 0 || (columns[manifold]!.unit && columns[boost]!.unit)) return;
  for (const a of unitsOf(columns[manifold]!))
    for (const b of unitsOf(columns[boost]!)) {
      if (a !== b && !columns[manifold]!.unit && !columns[boost]!.unit) continue;
      const differences = pairs(columns[manifold]!.values, columns[boost]!.values, (x, y) => toSi(x, a) - toSi(y, b));
      const middle = median(differences);
      const spread = median(differences.map((value) => Math.abs(value - middle)));
      if (middle < RELATIONS.outsidePa[0] || middle > RELATIONS.outsidePa[1] || spread > 3000) continue;
      if (!columns[manifold]!.unit) add(manifold, a, RELATIONS.holds);
      if (!columns[boost]!.unit) add(boost, b, RELATIONS.holds);
    }
}

/** Power is torque times speed. */
function powerAndTorque(columns: readonly RelatedColumn[], add: Add): void {
  const [power, torque, speed] = [find(columns, 'power'), find(columns, 'torque'), find(columns, 'engineSpeed')];
  if (power < 0 || torque < 0 || speed < 0 || (columns[power]!.unit && columns[torque]!.unit)) return;
  const top = columns[power]!.facts!.top;
  const ratios: number[] = [];
  columns[power]!.values.forEach((value, i) => {
    const product = columns[torque]!.values[i]! * columns[speed]!.values[i]!;
    if (value > 0.4 * top && Number.isFinite(product) && product > 0) ratios.push(value / product);
  });
  if (ratios.length < 10) return;
  const ratio = median(ratios);
  for (const p of unitsOf(columns[power]!))
    for (const t of unitsOf(columns[torque]!)) {
      const share = (ratio * toSi(1, p)) / (toSi(1, t) * (Math.PI / 30));
      if (Math.abs(share - 1) > RELATIONS.powerShare) continue;
      const odds = RELATIONS.holds * (1 - 0.5 * (Math.abs(share - 1) / RELATIONS.powerShare));
      if (!columns[power]!.unit) add(power, p, odds);
      if (!columns[torque]!.unit) add(torque, t, odds);
    }
}

/** An engine takes in its volume every other turn, at the density in its manifold. */
function airTakenIn(columns: readonly RelatedColumn[], add: Add): void {
  const [flow, manifold, speed] = [find(columns, 'airMassFlow'), find(columns, 'manifoldPressure'), find(columns, 'engineSpeed')];
  if (flow < 0 || speed < 0 || columns[flow]!.unit) return;
  const densities =
    manifold < 0
      ? [1.15]
      : unitsOf(columns[manifold]!)
          .map((unit) => toSi(columns[manifold]!.facts!.top, unit) / (287 * 310))
          .filter((value) => value > 0.7 && value < 6);
  if (densities.length === 0) return;
  const turns = columns[speed]!.facts!.top / 120;
  for (const unit of unitsOf(columns[flow]!)) {
    const kgS = toSi(columns[flow]!.facts!.top, unit);
    const fits = densities.some((density) => {
      const litres = (1000 * kgS) / (density * turns);
      return litres >= RELATIONS.filledL[0] && litres <= (manifold < 0 ? 2.5 : 1) * RELATIONS.filledL[1];
    });
    if (!fits) add(flow, unit, -RELATIONS.holds);
  }
}

/** What the air loses before the inlet is what its pressure falls by. */
function dropsBeforeInlet(columns: readonly RelatedColumn[], add: Add): void {
  const inlet = find(columns, 'inletPressure');
  const drops = columns.flatMap(({ quantity, unit, facts }, i) =>
    quantity === 'pressureDrop' && unit === null && facts && facts.count > 0 ? [i] : [],
  );
  if (inlet < 0 || drops.length === 0) return;
  const { facts, unit: written } = columns[inlet]!;
  // An absolute pressure of the air shows its own unit by where it stands.
  const inletUnits = written
    ? [written]
    : EXPECTATIONS.inletPressure.units.filter((unit) => fitOf('inletPressure', facts!, (value) => toSi(value, unit), null) === 0);
  const largest = Math.max(...drops.map((i) => columns[i]!.facts!.top));
  for (const unit of EXPECTATIONS.pressureDrop.units) {
    const fits = inletUnits.some((a) => {
      const fall = toSi(facts!.top, a) - toSi(facts!.bottom, a);
      const most = toSi(largest, unit);
      return most <= RELATIONS.dropFactor * fall && most >= (0.3 * fall) / RELATIONS.dropFactor;
    });
    for (const i of drops) add(i, unit, fits ? 0.5 * RELATIONS.holds : -RELATIONS.holds);
  }
}

const MOST_PAIRS = 1000;

function pairs(a: Float64Array, b: Float64Array, value: (x: number, y: number) => number): number[] {
  const step = Math.max(1, Math.floor(a.length / MOST_PAIRS));
  const found: number[] = [];
  for (let i = 0; i < a.length; i += step) {
    const both = value(a[i]!, b[i]!);
    if (Number.isFinite(both)) found.push(both);
  }
  return found;
}
