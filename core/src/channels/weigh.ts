import type { Quantity, ReadReason } from '@gezeit/contract';
import { toSi, UNITS, type UnitName } from '../units/units.js';
import { unitFor, type Candidate } from './candidates.js';
import type { ColumnFacts } from './column-facts.js';
import { EXPECTATIONS } from './expectations.js';
import type { Others } from './file-evidence.js';
import type { WrittenUnit } from './header.js';
import { wordsOf, type NameClaim } from './name-evidence.js';
import { fitOf, judgeUnit, type JudgedUnit, type UnitContext } from './unit-by-values.js';
import type { UnitHints } from './unit-relations.js';

/** The ratio that a device divides by to show an air-fuel ratio, where nothing else is said; assumption. */
export const DEFAULT_AFR_STOICH = 14.7;

/** How the voices are weighed beside the name, as log-odds. Assumptions, set on the corpus. */
export const EVIDENCE = {
  /** That it is none of the quantities, before anything is known. */
  none: 1.2,
  unitFits: 1.5,
  /** A quantity that has one unit only needs none written. */
  unitImplied: 0.7,
  /** The name lacks what is measured, and no unit says it. */
  nothingMeasured: -2,
  valuesFit: 0.5,
  shape: 1.2,
  otherColumns: 0.9,
  anotherAmbient: -0.5,
  /** A clock rises from row to row, but for some swapped samples and for a restart. */
  leastRising: 0.6,
  clockRising: 0.97,
  timeByShape: 0.85,
};
/** An air-fuel ratio lies here, and a lambda below. */
const AFR_FROM = 6;

/** A quantity that a column may be, with all voices together, as log-odds. */
export interface Weighed {
  quantity: Quantity;
  score: number;
  candidate: Candidate;
  judged: JudgedUnit | null;
  because: ReadReason[];
}

/** Every quantity that any reading of the header could mean, with all voices, best first. */
export function weighAll(
  candidates: readonly Candidate[],
  facts: ColumnFacts | null,
  context: UnitContext,
  others: Others,
  refused: ReadReason[],
  hints?: UnitHints,
): Weighed[] {
  const best = new Map<Quantity, Weighed>();
  for (const candidate of candidates) {
    for (const claim of candidate.reading.claims) {
      if (claim.score < -1) continue;
      const weighed = weigh(claim, candidate, facts, context, others, refused, hints);
      const before = best.get(claim.quantity);
      if (weighed && (!before || weighed.score > before.score)) best.set(claim.quantity, weighed);
    }
  }
  return [...best.values()].sort((a, b) => b.score - a.score);
}

function weigh(
  { quantity, score: named, needsUnit }: NameClaim,
  candidate: Candidate,
  facts: ColumnFacts | null,
  context: UnitContext,
  others: Others,
  refused: ReadReason[],
  hints?: UnitHints,
): Weighed | null {
  const because: ReadReason[] = [{ code: 'name' }];
  const { dimension } = EXPECTATIONS[quantity];
  const written = unitFor(candidate, dimension);
  let score = named;
  let judged: JudgedUnit | null = null;
  if (quantity === 'time') {
    if (written && written.unit && UNITS[written.unit].dimension !== 'time') return null;
    if (written && !written.unit && !/[hmsd]/i.test(written.text)) return null;
    if (facts && facts.count > 0 && facts.rising < EVIDENCE.leastRising) score -= 3;
    else score += EVIDENCE.unitFits + (facts ? EVIDENCE.shape : 0);
    return { quantity, score, candidate, judged, because };
  }
  if (written) {
    if (!fitsDimension(quantity, written)) {
      refused.push(written.unit ? { code: 'unit-apart', unit: written.unit } : { code: 'unit-unknown', text: written.text });
      return null;
    }
    score += EVIDENCE.unitFits;
    because.push({ code: 'unit' });
  } else if (needsUnit) score += EVIDENCE.nothingMeasured;
  if (!facts || facts.count === 0) {
    if (!written && facts === null) judged = impliedUnit(quantity);
    if (judged?.share === 1 || dimension === 'lambda') score += EVIDENCE.unitImplied;
    return { quantity, score, candidate, judged, because };
  }
  const gauge = saidGauge(candidate);
  if (!written && dimension !== 'lambda') {
    judged = judgeUnit(quantity, facts, gauge, context, hints);
    score += judged?.fit ?? 0;
    if (judged && EXPECTATIONS[quantity].units.length > 1) because.push({ code: 'unit-judged', unit: judged.unit, rivals: judged.rivals });
  } else {
    const divisor = dimension === 'lambda' ? lambdaDivisor(candidate, facts) : 1 / (written?.multiplier ?? 1);
    const unit = written?.unit ?? (dimension === 'lambda' ? 'λ' : null);
    if (unit)
      score += fitOf(
        quantity,
        facts,
        (value) => toSi(value / divisor, UNITS[unit].dimension === dimension ? unit : plainUnit(quantity)),
        gauge,
      );
  }
  if (score > named - 1) {
    score += EVIDENCE.valuesFit;
    because.push({ code: 'values' });
  }
  const shape = shapeOf(quantity, facts);
  score += shape;
  if (shape > 0.5) because.push({ code: 'shape' });
  const company = companyOf(quantity, others);
  score += company;
  if (company > 0.5) because.push({ code: 'columns' });
  return { quantity, score, candidate, judged, because };
}

const plainUnit = (quantity: Quantity): UnitName => EXPECTATIONS[quantity].units[0] ?? '–';

/** A unit fits a quantity of its dimension; a share may be written as a plain number, and a lambda as an air-fuel ratio. */
function fitsDimension(quantity: Quantity, { unit, afr }: WrittenUnit): boolean {
  const { dimension } = EXPECTATIONS[quantity];
  if (afr) return quantity === 'lambda';
  if (!unit) return false;
  return UNITS[unit].dimension === dimension;
}

/** Without values the unit that the name alone implies, if it implies one. */
export function impliedUnit(quantity: Quantity): JudgedUnit | null {
  const { units, dimension } = EXPECTATIONS[quantity];
  const unit = units[0];
  if (!unit) return null;
  const implies = units.length === 1 || dimension === 'temperature' || dimension === 'ratio' || quantity === 'injectorTime';
  return { unit, fit: 0, share: implies ? 1 : 0, rivals: implies ? [] : units.slice(1) };
}

const GAUGE = /(gauge|psig|kpag|barg|vacuum|depression|unterdruck|überdruck|dépression|depresión|depressione)/i;
const ABSOLUTE = /(\babs\b|absolute?|absolu[et]?|absolut[ao]|assolut[ao]|psia|kpaa|bara)/i;

/** Whether name, unit or words say that a pressure is against ambient (true) or absolute (false); null where nothing does. */
export function saidGauge({ header, unit, reading }: Candidate): boolean | null {
  if (unit?.gauge != null) return unit.gauge;
  const said = `${header.name} ${unit?.text ?? ''}`.replaceAll('_', ' ');
  if (GAUGE.test(said) || (reading.concepts.has('gauge') && !reading.concepts.has('absolute'))) return true;
  return ABSOLUTE.test(said) ? false : null;
}

/** What an air-fuel ratio is divided by to be a lambda; 1 for a lambda. */
export function lambdaDivisor({ unit, header }: Candidate, facts: ColumnFacts | null): number {
  if (unit?.unit === 'λ') return 1;
  if (unit?.afr) return DEFAULT_AFR_STOICH;
  if (facts && facts.count > 0) return facts.middle > AFR_FROM ? DEFAULT_AFR_STOICH : 1;
  return wordsOf(header.name).includes('afr') ? DEFAULT_AFR_STOICH : 1;
}

/** What the course of the values says: an engine's speed rises, a throttle stands at its top, the air outside stands still. */
function shapeOf(quantity: Quantity, facts: ColumnFacts): number {
  const span = facts.high - facts.low;
  const rise = facts.sweep ? facts.sweep[1] - facts.sweep[0] : null;
  switch (quantity) {
    case 'engineSpeed':
    case 'compressorSpeed':
    case 'rollerSpeed':
    case 'vehicleSpeed':
      return rise !== null && rise > 0.3 * span ? EVIDENCE.shape : 0;
    case 'throttle':
    case 'pedal':
      return facts.atTop > 0.05 && ((facts.top > 60 && span > 20) || (facts.high <= 1.06 && span > 0.5)) ? EVIDENCE.shape : 0;
    case 'ambientTemperature':
    case 'ambientPressure':
      return facts.top - facts.bottom <= 0.02 * Math.max(1, Math.abs(facts.middle)) ? EVIDENCE.shape : EVIDENCE.anotherAmbient;
    case 'gear':
    case 'lap':
      return facts.whole ? 0.8 : -3;
    case 'intakeAirTemperature':
      return facts.top - facts.bottom > 0.02 * Math.max(1, Math.abs(facts.middle)) ? 0.3 : 0;
    case 'power':
      return rise !== null && rise > 0.3 * span ? 0.6 : 0;
    case 'airMassFlow':
    case 'airMeterFrequency':
      return rise !== null && rise > 0.3 * span ? 0.6 : 0;
    case 'lambda':
      return facts.middle > 0.6 && facts.middle < 1.6 ? 0.7 : 0;
    default:
      return 0;
  }
}

/** What the rest of the file says. */
function companyOf(quantity: Quantity, { dyno, weather, engine }: Others): number {
  if (quantity === 'rollerSpeed') return dyno ? EVIDENCE.otherColumns : engine ? -EVIDENCE.otherColumns : 0;
  if (quantity === 'vehicleSpeed') return dyno ? -EVIDENCE.otherColumns : engine ? EVIDENCE.otherColumns : 0;
  if (quantity === 'ambientTemperature' || quantity === 'ambientPressure') return weather ? 1.8 : 0;
  return 0;
}
