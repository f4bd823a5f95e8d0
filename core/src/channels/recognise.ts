import type { ChannelMapping, Quantity } from '@gezeit/contract';
import { toSi, UNITS, type Dimension, type UnitName } from '../units/units.js';
import { unitFromText } from '../units/unit-spellings.js';
import { factsOf, riseRows, type ColumnFacts } from './column-facts.js';
import { EXPECTATIONS } from './expectations.js';
import { takeHeaderApart, writtenUnit, type Header, type WrittenUnit } from './header.js';
import { readName, wordsOf, type NameClaim, type NameReading } from './name-evidence.js';
import { sectionOf } from './section.js';
import { fitOf, judgeUnit, systemOf, type JudgedUnit, type UnitContext } from './unit-by-values.js';
import { unitHints, type RelatedColumn, type UnitHints } from './unit-relations.js';

/** Below this a column is not taken for anything, but asked about; assumption. */
const SURE_ENOUGH = 0.8;
/** The ratio that a device divides by to show an air-fuel ratio, where nothing else is said; assumption. */
export const DEFAULT_AFR_STOICH = 14.7;

/** How the voices are weighed beside the name, as log-odds. Assumptions, set on the corpus. */
const EVIDENCE = {
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
const MOST_RIVALS = 3;

/** Why a column is taken for something. */
export type Reason =
  | { code: 'hand' | 'ignored' | 'name' | 'unit' | 'values' | 'shape' | 'columns' | 'afr' | 'absolute' | 'gauge' | 'clock' }
  | { code: 'unit-judged'; unit: UnitName; rivals: readonly UnitName[] }
  | { code: 'unit-unknown'; text: string }
  | { code: 'unit-unsure'; units: readonly UnitName[] }
  | { code: 'unit-apart'; unit: UnitName }
  | { code: 'unsure' };

/** A column of a file, as written, before anything is known of it. */
export interface ColumnAsWritten {
  header: string;
  unitRow: string;
  kind: 'number' | 'clock' | 'text';
  values: Float64Array;
  mapping: ChannelMapping | null;
}

/** What a column is taken for, how sure, and what else it could be. */
export interface Recognition {
  name: string;
  unitText: string | null;
  quantity: Quantity | null;
  /** In which it is written; null for time and for what is not recognised. */
  unit: UnitName | null;
  section: string | null;
  /** A pressure against ambient (true) or absolute (false), where name, unit, mapping or values say so. */
  gauge: boolean | null;
  /** What its values are divided by first: a stoichiometric ratio, or the inverse of "x1000"; else 1. */
  divisor: number;
  sure: number;
  rivals: { quantity: Quantity; sure: number }[];
  because: Reason[];
}

interface Candidate {
  header: Header;
  reading: NameReading;
  unit: WrittenUnit | null;
}

/**
 * Takes every column for what name, unit, values and the other columns say together. What is less sure than {@link SURE_ENOUGH} stays
 * unknown, with its rivals. A mapping by hand wins.
 */
export function recogniseColumns(columns: readonly ColumnAsWritten[]): Recognition[] {
  const candidates = columns.map((column) => candidatesOf(column.header, column.unitRow, column.mapping));
  const sweepRows = sweepRowsOf(columns, candidates);
  const facts = columns.map((column) => (column.kind === 'text' ? null : factsOf(column.values, sweepRows)));
  const context = unitContext(columns, candidates, facts);
  const others = concernedWith(candidates);
  const hints = unitHints(columns.map((column, i) => relatedColumn(column, candidates[i]!, facts[i]!)));
  const recognitions = columns.map((column, i) => recogniseOne(column, candidates[i]!, facts[i]!, context, others, hints[i]));
  return withTimeByShape(columns, candidates, facts, recognitions);
}

function relatedColumn({ values, mapping }: ColumnAsWritten, candidates: readonly Candidate[], facts: ColumnFacts | null): RelatedColumn {
  const claim = bestClaim(candidates);
  const quantity = mapping?.quantity ?? (claim && claim.score >= 1 ? claim.quantity : null);
  const unit = quantity === null ? null : (unitFor(candidates[0]!, EXPECTATIONS[quantity].dimension)?.unit ?? null);
  return { quantity, unit: unit && quantity && UNITS[unit].dimension !== EXPECTATIONS[quantity].dimension ? null : unit, values, facts };
}

/** Where no column says that it is time, the first that nobody else claims and that runs as a clock does is taken for it. */
function withTimeByShape(
  columns: readonly ColumnAsWritten[],
  candidates: readonly Candidate[][],
  facts: readonly (ColumnFacts | null)[],
  recognitions: Recognition[],
): Recognition[] {
  if (recognitions.some(({ quantity }) => quantity === 'time')) return recognitions;
  const index = columns.findIndex(({ kind, values, mapping }, i) => {
    if (kind !== 'number' || recognitions[i]!.quantity !== null || mapping?.ignore || !facts[i] || facts[i].rising < EVIDENCE.clockRising)
      return false;
    const { concepts } = candidates[i]![0]!.reading;
    const claim = bestClaim(candidates[i]!);
    return !concepts.has('mark') && !(claim?.quantity === 'distance' && claim.score >= 1) && runsEvenly(values);
  });
  if (index < 0) return recognitions;
  return recognitions.map((entry, i) =>
    i === index
      ? {
          ...entry,
          quantity: 'time',
          unit: candidates[i]![0]!.unit?.unit ?? null,
          sure: EVIDENCE.timeByShape,
          rivals: [],
          because: [{ code: 'shape' }],
        }
      : entry,
  );
}

function runsEvenly(values: Float64Array): boolean {
  const steps: number[] = [];
  for (let i = 1; i < values.length && steps.length < 2000; i += 1) steps.push(values[i]! - values[i - 1]!);
  const known = steps.filter(Number.isFinite).sort((a, b) => a - b);
  const at = (share: number) => known[Math.round(share * (known.length - 1))]!;
  return known.length >= 5 && at(0.1) > 0 && at(0.9) <= 4 * at(0.5);
}

/** What a header alone says, without values: of a stream, or of a field that names a quantity. */
export function recogniseHeader(header: string, unitRow = '', mapping: ChannelMapping | null = null): Recognition {
  const column: ColumnAsWritten = { header, unitRow, kind: 'number', values: new Float64Array(0), mapping };
  return recogniseOne(column, candidatesOf(header, unitRow, mapping), null, { written: new Set(), system: null }, NO_OTHERS);
}

/** The quantity that a text means by words of the field, or null. */
export function quantityFromName(name: string): Quantity | null {
  const best = readName(name).claims[0];
  return best && best.score >= 1 ? best.quantity : null;
}

/** Whether a row holds units rather than names or values. */
export function looksLikeUnits(row: readonly string[]): boolean {
  const cells = row.map((cell) => cell.trim()).filter((cell) => cell !== '');
  const isUnit = (cell: string) => {
    const unit = writtenUnit(cell);
    return (
      unit === null || unit.unit !== null || unit.afr || /^(h+:m+:s+.*|hh?:mm:ss|[a-z]+:[a-z]+|d+[./-]m+[./-]y+.*|y+-m+-d+.*)$/i.test(cell)
    );
  };
  return cells.length > 0 && cells.some((cell) => writtenUnit(cell) !== null) && cells.filter(isUnit).length >= 0.6 * cells.length;
}

/** The header as it can be read: with its unit cut off, and whole; in "Engine RPM" the last word belongs to the name as well. */
function candidatesOf(header: string, unitRow: string, mapping: ChannelMapping | null): Candidate[] {
  const apart = takeHeaderApart(header);
  const fromRow = writtenUnit(unitRow);
  const byHand = mapping?.unit != null ? writtenUnit(mapping.unit) : null;
  if (byHand)
    return [
      { header: apart, reading: readName(apart.name), unit: byHand },
      { header: { name: header.trim(), unit: byHand }, reading: readName(header), unit: byHand },
    ];
  const cut: Candidate = { header: apart, reading: readName(apart.name), unit: apart.unit ?? fromRow };
  const list = [cut];
  const inBrackets = /[\])}>⟩】]\s*$/.test(header.trim());
  if (apart.unit && !inBrackets) {
    const whole = header.trim();
    list.push({ header: { name: whole, unit: apart.unit }, reading: readName(whole), unit: apart.unit });
  }
  const last = /^(.+?)[\s_.]?(C|F|K|s|W)$/.exec(header.trim());
  if (!apart.unit && !fromRow && last) {
    const reading = readName(last[1]!);
    const [wanted, spelled] = LAST_LETTERS[last[2]!]!;
    const best = reading.claims[0];
    if (best && best.score >= 1.4 && EXPECTATIONS[best.quantity].dimension === wanted) {
      const unit = writtenUnit(spelled);
      list.unshift({ header: { name: last[1]!.trim(), unit }, reading, unit });
    }
  }
  return list;
}

/** Letters that are a unit only behind a name that is measured in it. */
const LAST_LETTERS: Readonly<Record<string, readonly [Dimension, string]>> = {
  C: ['temperature', '°C'],
  F: ['temperature', '°F'],
  K: ['temperature', 'K'],
  s: ['time', 's'],
  W: ['power', 'W'],
};

function bestClaim(candidates: readonly Candidate[]): NameClaim | null {
  const isOpen = ({ needsUnit }: NameClaim, { unit }: Candidate) => needsUnit && unit === null;
  const claims = candidates.flatMap((candidate) => candidate.reading.claims.filter((claim) => !isOpen(claim, candidate)));
  return claims.sort((a, b) => b.score - a.score)[0] ?? null;
}

function sweepRowsOf(columns: readonly ColumnAsWritten[], candidates: readonly Candidate[][]): readonly [number, number] | null {
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

/** The units that the file writes, and, for those that it leaves out, the system that its temperatures show. */
function unitContext(
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
  const votes: Record<'°C' | '°F' | 'K', number> = { '°C': 0.5, '°F': 0, K: -0.5 };
  for (const [i, list] of candidates.entries()) {
    const claim = bestClaim(list);
    const fact = facts[i];
    if (!claim || claim.score < 1 || !fact || fact.count === 0 || EXPECTATIONS[claim.quantity].dimension !== 'temperature') continue;
    for (const unit of ['°C', '°F', 'K'] as const) votes[unit] += fitOf(claim.quantity, fact, (value) => toSi(value, unit), null);
  }
  if (votes.K > Math.max(votes['°C'], votes['°F'])) return { written, system: null };
  const apart = votes['°C'] - votes['°F'];
  return { written, system: Math.abs(apart) < 0.4 ? null : apart > 0 ? 'metric' : 'imperial' };
}

/** What else the file is about, from the names of its columns. */
interface Others {
  dyno: boolean;
  weather: boolean;
  engine: boolean;
}
const NO_OTHERS: Others = { dyno: false, weather: false, engine: false };

function concernedWith(candidates: readonly Candidate[][]): Others {
  const named = new Set(candidates.map(bestClaim).flatMap((claim) => (claim && claim.score >= 1 ? [claim.quantity] : [])));
  const has = (...quantities: Quantity[]) => quantities.some((quantity) => named.has(quantity));
  return {
    dyno: has('power', 'torque') && !has('ignitionAdvance', 'injectorTime', 'throttle'),
    weather: has('relativeHumidity') && !has('engineSpeed', 'throttle'),
    engine: has('engineSpeed', 'throttle', 'ignitionAdvance'),
  };
}

interface Weighed {
  quantity: Quantity;
  score: number;
  candidate: Candidate;
  judged: JudgedUnit | null;
  because: Reason[];
}

function recogniseOne(
  column: ColumnAsWritten,
  candidates: readonly Candidate[],
  facts: ColumnFacts | null,
  context: UnitContext,
  others: Others,
  hints?: UnitHints,
): Recognition {
  const [first] = candidates;
  const unknown = (because: Reason[], rivals: Recognition['rivals'] = [], sure = 0): Recognition => ({
    name: first!.header.name,
    unitText: first!.unit?.text ?? null,
    quantity: null,
    unit: null,
    section: null,
    gauge: null,
    divisor: 1,
    sure,
    rivals,
    because,
  });
  if (column.mapping?.ignore) return { ...unknown([{ code: 'ignored' }]), sure: 1 };
  if (column.mapping?.quantity) return byHand(column, candidates);
  if (column.kind === 'text') return unknown([]);
  if (column.kind === 'clock') return { ...unknown([{ code: 'clock' }]), quantity: 'time', sure: 0.99 };
  const refused: Reason[] = [];
  const weighed = weighAll(candidates, facts, context, others, refused, hints);
  const best = weighed[0];
  if (!best) return unknown(refused.slice(0, 1));
  const all = Math.exp(EVIDENCE.none) + weighed.reduce((sum, { score }) => sum + Math.exp(score), 0);
  const probability = ({ score, judged }: Weighed) => (Math.exp(score) / all) * (judged?.share ?? 1);
  const said = weighed.map((entry) => ({ quantity: entry.quantity, sure: rounded(probability(entry)) })).filter(({ sure }) => sure >= 0.01);
  const sure = rounded(probability(best));
  if (sure < SURE_ENOUGH) {
    const why: Reason[] =
      best.judged && best.judged.rivals.length > 0 && Math.exp(best.score) / all >= SURE_ENOUGH
        ? [{ code: 'unit-unsure', units: [best.judged.unit, ...best.judged.rivals] }]
        : [{ code: 'unsure' }];
    return { ...unknown(why, said.slice(0, MOST_RIVALS), sure), name: best.candidate.header.name };
  }
  return taken(best, column, sure, said.slice(1, 1 + MOST_RIVALS), facts);
}

const rounded = (value: number) => Math.min(0.99, Math.round(100 * value) / 100);

/** Every quantity that any reading of the header could mean, with all voices, best first. */
function weighAll(
  candidates: readonly Candidate[],
  facts: ColumnFacts | null,
  context: UnitContext,
  others: Others,
  refused: Reason[],
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
  refused: Reason[],
  hints?: UnitHints,
): Weighed | null {
  const because: Reason[] = [{ code: 'name' }];
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

/** The unit that a header writes; plain "deg" beside a temperature says no more than that it is one. */
function unitFor({ unit }: Candidate, dimension: Dimension): WrittenUnit | null {
  return unit?.unit === '°' && dimension === 'temperature' ? null : unit;
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
function impliedUnit(quantity: Quantity): JudgedUnit | null {
  const { units, dimension } = EXPECTATIONS[quantity];
  const unit = units[0];
  if (!unit) return null;
  const implies = units.length === 1 || dimension === 'temperature' || quantity === 'injectorTime';
  return { unit, fit: 0, share: implies ? 1 : 0, rivals: implies ? [] : units.slice(1) };
}

const GAUGE = /(gauge|psig|kpag|barg|vacuum|depression|unterdruck|überdruck|dépression|depresión|depressione)/i;
const ABSOLUTE = /(\babs\b|absolute?|absolu[et]?|absolut[ao]|assolut[ao]|psia|kpaa|bara)/i;

function saidGauge({ header, unit, reading }: Candidate): boolean | null {
  if (unit?.gauge != null) return unit.gauge;
  const said = `${header.name} ${unit?.text ?? ''}`.replaceAll('_', ' ');
  if (GAUGE.test(said) || (reading.concepts.has('gauge') && !reading.concepts.has('absolute'))) return true;
  return ABSOLUTE.test(said) ? false : null;
}

function lambdaDivisor({ unit, header }: Candidate, facts: ColumnFacts | null): number {
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
      return facts.atTop > 0.05 && facts.top > 60 && span > 20 ? EVIDENCE.shape : 0;
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

function byHand({ mapping, header }: ColumnAsWritten, candidates: readonly Candidate[]): Recognition {
  const first = candidates[0]!;
  const quantity = mapping!.quantity!;
  const { dimension } = EXPECTATIONS[quantity];
  const written = mapping!.unit != null ? writtenUnit(mapping!.unit) : first.unit;
  const isAfr = quantity === 'lambda' && (written?.afr === true || (!written && /\bafr\b/i.test(header)));
  const unit = isAfr ? 'λ' : (written?.unit ?? impliedUnit(quantity)?.unit ?? null);
  const plain = { name: first.header.name, unitText: written?.text ?? null, sure: 1, rivals: [], because: [{ code: 'hand' }] as Reason[] };
  if (quantity === 'time') return { ...plain, quantity, unit: null, section: null, gauge: null, divisor: 1 };
  if (!unit || UNITS[unit].dimension !== dimension) {
    const because: Reason[] = [unit ? { code: 'unit-apart', unit } : { code: 'unit-unknown', text: mapping!.unit ?? '' }];
    return {
      ...plain,
      quantity: null,
      unit: null,
      section: null,
      gauge: null,
      divisor: 1,
      sure: 0,
      rivals: [{ quantity, sure: 1 }],
      because,
    };
  }
  return {
    ...plain,
    quantity,
    unit,
    section: mapping!.section ?? (quantity === 'pressureDrop' ? sectionOf(first.header.name) : null),
    gauge: dimension === 'pressure' ? (mapping!.gauge ?? saidGauge({ ...first, unit: written })) : null,
    divisor: isAfr ? (mapping!.afrStoich ?? DEFAULT_AFR_STOICH) : 1 / (written?.multiplier ?? 1),
  };
}

function taken(
  best: Weighed,
  column: ColumnAsWritten,
  sure: number,
  rivals: Recognition['rivals'],
  facts: ColumnFacts | null,
): Recognition {
  const { quantity, candidate, judged, because } = best;
  const { dimension } = EXPECTATIONS[quantity];
  const { header } = candidate;
  const written = unitFor(candidate, dimension);
  const divisor = quantity === 'lambda' ? lambdaDivisor(candidate, facts) : 1 / (written?.multiplier ?? 1);
  const unit = quantity === 'time' ? (written?.unit ?? null) : quantity === 'lambda' ? 'λ' : (written?.unit ?? judged?.unit ?? null);
  return {
    name: header.name,
    unitText: written?.text ?? null,
    quantity,
    unit,
    section: quantity === 'pressureDrop' ? (column.mapping?.section ?? sectionOf(header.name)) : null,
    gauge: dimension === 'pressure' ? saidGauge(candidate) : null,
    divisor,
    sure,
    rivals,
    because: quantity === 'lambda' && divisor !== 1 ? [...because, { code: 'afr' }] : because,
  };
}
