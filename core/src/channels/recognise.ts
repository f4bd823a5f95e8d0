import type { ChannelMapping, Quantity, ReadReason } from '@gezeit/contract';
import { UNITS } from '../units/units.js';
import { bestClaim, candidatesOf, unitFor, type Candidate } from './candidates.js';
import { factsOf, type ColumnFacts } from './column-facts.js';
import { EXPECTATIONS } from './expectations.js';
import { concernedWith, NO_OTHERS, relatedColumn, sweepRowsOf, unitContext, type Others } from './file-evidence.js';
import { writtenUnit } from './header.js';
import { readName } from './name-evidence.js';
import type { ColumnAsWritten, Recognition } from './recognition.js';
import { sectionOf } from './section.js';
import type { UnitContext } from './unit-by-values.js';
import { unitHints, type UnitHints } from './unit-relations.js';
import { DEFAULT_AFR_STOICH, EVIDENCE, impliedUnit, lambdaDivisor, saidGauge, weighAll, type Weighed } from './weigh.js';

/** Below this a column is not taken for anything, but asked about; assumption. */
const SURE_ENOUGH = 0.8;
const MOST_RIVALS = 3;

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
    return !concepts.has('mark') && !concepts.has('trigger') && !(claim?.quantity === 'distance' && claim.score >= 1) && runsEvenly(values);
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

function recogniseOne(
  column: ColumnAsWritten,
  candidates: readonly Candidate[],
  facts: ColumnFacts | null,
  context: UnitContext,
  others: Others,
  hints?: UnitHints,
): Recognition {
  const [first] = candidates;
  const unknown = (because: ReadReason[], rivals: Recognition['rivals'] = [], sure = 0): Recognition => ({
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
  const refused: ReadReason[] = [];
  const weighed = weighAll(candidates, facts, context, others, refused, hints);
  const best = weighed[0];
  if (!best) return unknown(refused.slice(0, 1));
  const all = Math.exp(EVIDENCE.none) + weighed.reduce((sum, { score }) => sum + Math.exp(score), 0);
  const probability = ({ score, judged }: Weighed) => (Math.exp(score) / all) * (judged?.share ?? 1);
  const said = weighed.map((entry) => ({ quantity: entry.quantity, sure: rounded(probability(entry)) })).filter(({ sure }) => sure >= 0.01);
  const sure = rounded(probability(best));
  if (sure < SURE_ENOUGH) {
    const why: ReadReason[] =
      best.judged && best.judged.rivals.length > 0 && Math.exp(best.score) / all >= SURE_ENOUGH
        ? [{ code: 'unit-unsure', units: [best.judged.unit, ...best.judged.rivals] }]
        : [{ code: 'unsure' }];
    return { ...unknown(why, said.slice(0, MOST_RIVALS), sure), name: best.candidate.header.name };
  }
  return taken(best, column, sure, said.slice(1, 1 + MOST_RIVALS), facts);
}

const rounded = (value: number) => Math.min(0.99, Math.round(100 * value) / 100);

function byHand({ mapping, header }: ColumnAsWritten, candidates: readonly Candidate[]): Recognition {
  const first = candidates[0]!;
  const quantity = mapping!.quantity!;
  const { dimension } = EXPECTATIONS[quantity];
  const written = mapping!.unit != null ? writtenUnit(mapping!.unit) : first.unit;
  const isAfr = quantity === 'lambda' && (written?.afr === true || (!written && /\bafr\b/i.test(header)));
  const unit = isAfr ? 'λ' : (written?.unit ?? impliedUnit(quantity)?.unit ?? null);
  const plain = {
    name: first.header.name,
    unitText: written?.text ?? null,
    sure: 1,
    rivals: [],
    because: [{ code: 'hand' }] as ReadReason[],
  };
  if (quantity === 'time') return { ...plain, quantity, unit: null, section: null, gauge: null, divisor: 1 };
  if (!unit || UNITS[unit].dimension !== dimension) {
    const because: ReadReason[] = [unit ? { code: 'unit-apart', unit } : { code: 'unit-unknown', text: mapping!.unit ?? '' }];
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
