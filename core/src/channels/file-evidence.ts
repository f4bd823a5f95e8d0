import type { Quantity } from '@gezeit/contract';
import { toSi, UNITS, type UnitName } from '../units/units.js';
import { unitFromText } from '../units/unit-spellings.js';
import { bestClaim, unitFor, type Candidate } from './candidates.js';
import { riseRows, type ColumnFacts } from './column-facts.js';
import { EXPECTATIONS } from './expectations.js';
import type { ColumnAsWritten } from './recognition.js';
import { fitOf, systemOf, usualOf, type UnitContext } from './unit-by-values.js';
import type { RelatedColumn } from './unit-relations.js';

/** A column as the physics between columns takes it: what its name says, before anything is weighed. */
export function relatedColumn(
  { values, mapping }: ColumnAsWritten,
  candidates: readonly Candidate[],
  facts: ColumnFacts | null,
): RelatedColumn {
  const claim = bestClaim(candidates);
  const quantity = mapping?.quantity ?? (claim && claim.score >= 1 ? claim.quantity : null);
  const unit = quantity === null ? null : (unitFor(candidates[0]!, EXPECTATIONS[quantity].dimension)?.unit ?? null);
  return { quantity, unit: unit && quantity && UNITS[unit].dimension !== EXPECTATIONS[quantity].dimension ? null : unit, values, facts };
}

/** First and last row of the rise of a speed, by the first column that is named as one. */
export function sweepRowsOf(columns: readonly ColumnAsWritten[], candidates: readonly Candidate[][]): readonly [number, number] | null {
  for (const wanted of ['engineSpeed', 'rollerSpeed', 'vehicleSpeed'] as const) {
    for (const [i, column] of columns.entries()) {
      if (column.kind !== 'number' || column.values.length === 0) continue;
      const isHand = column.mapping?.quantity === wanted;
      const claim = isHand ? null : bestClaim(candidates[i]!);
      if (!isHand && !(claim && claim.quantity === wanted && claim.score >= 1)) continue;
      const rows = riseRows(column.values);
      if (rows) return rows;
    }
  }
  return null;
}

/** How temperatures are written before any is seen, as log-odds, and how far apart they must lie to tell the system of a file. Assumptions. */
const TEMPERATURES_BEFORE = { '°C': 1, '°F': 0, K: -0.5 };
const LEAST_APART = 1;

/** The units that the file writes, and, for those that it leaves out, the system that its temperatures show. */
export function unitContext(
  columns: readonly ColumnAsWritten[],
  candidates: readonly Candidate[][],
  facts: readonly (ColumnFacts | null)[],
): UnitContext {
  const written = new Set<UnitName>();
  columns.forEach(({ mapping }, i) => {
    const unit = mapping?.unit ? unitFromText(mapping.unit) : candidates[i]![0]!.unit?.unit;
    if (unit) written.add(unit);
  });
  const system = systemOf(written);
  if (system) return { written, system };
  const votes = { ...TEMPERATURES_BEFORE };
  for (const [i, list] of candidates.entries()) {
    const claim = bestClaim(list);
    const fact = facts[i];
    if (!claim || claim.score < 1 || !fact || fact.count === 0 || EXPECTATIONS[claim.quantity].dimension !== 'temperature') continue;
    for (const unit of ['°C', '°F', 'K'] as const)
      votes[unit] += fitOf(claim.quantity, fact, (value) => toSi(value, unit), null) + usualOf(claim.quantity, toSi(fact.top, unit));
  }
  if (votes.K > Math.max(votes['°C'], votes['°F'])) return { written, system: null };
  const apart = votes['°C'] - votes['°F'];
  return { written, system: Math.abs(apart) < LEAST_APART ? null : apart > 0 ? 'metric' : 'imperial' };
}

/** What else the file is about, from the names of its columns. */
export interface Others {
  dyno: boolean;
  weather: boolean;
  engine: boolean;
}
export const NO_OTHERS: Others = { dyno: false, weather: false, engine: false };

/** What the file is about. */
export function concernedWith(candidates: readonly Candidate[][]): Others {
  const named = new Set(candidates.map(bestClaim).flatMap((claim) => (claim && claim.score >= 1 ? [claim.quantity] : [])));
  const has = (...quantities: Quantity[]) => quantities.some((quantity) => named.has(quantity));
  return {
    dyno: has('power', 'torque') && !has('ignitionAdvance', 'injectorTime', 'throttle'),
    weather: has('relativeHumidity') && !has('engineSpeed', 'throttle'),
    engine: has('engineSpeed', 'throttle', 'ignitionAdvance'),
  };
}
