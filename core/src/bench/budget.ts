import {
  SECTION_KINDS,
  type Aspiration,
  type BenchInputs,
  type Claim,
  type Findings,
  type PathSection,
  type Setup,
  type EvidenceDraft,
  type Figure,
} from '@gezeit/contract';
import { compress, COMPRESSOR_EFFICIENCY } from '../compressor/compression.js';
import { inletLossCost } from '../compressor/inlet-loss.js';
import { claimKW } from '../units/claimed.js';
import { gainOfLessRestriction, LARGEST_GAIN_FACTOR } from '../flow/restriction-cost.js';
import { checkInputs } from './fields.js';
import { airDemandInstrument, demandAt } from './instruments/air-demand.js';
import { dropOfLossPa, sectionLoss } from './section-loss.js';

/** Sections behind the compressor: their air is the charge's. */
const AFTER_COMPRESSOR: readonly PathSection['kind'][] = ['cooler', 'throttle'];

export interface BudgetConditions {
  massFlowKgS: number;
  ambientPa: number;
  ambientC: number;
  /** Charge before the cooler, absolute Pa and °C; null on a naturally aspirated engine. */
  charge: { pressurePa: number; temperatureC: number } | null;
  aspiration: Aspiration;
}

export interface BudgetSection {
  section: PathSection;
  dropPa: number | null;
  lowPa: number | null;
  highPa: number | null;
  /** Share of the setup's own total. */
  share: number | null;
  /** Total of the setup if this section were ideal, Pa. */
  totalIfIdealPa: number | null;
  missing: string | null;
  /** Carried beyond 1.2 times the measured flow. */
  beyond: boolean;
  afterCompressor: boolean;
}

export interface Budget {
  setup: string;
  sections: BudgetSection[];
  /** Sum of the sections before the compressor (all of them on a naturally aspirated engine), and its limits where every one has some. */
  totalPa: number;
  /** Sections before the engine or compressor whose loss is not known: the total is then none. */
  incomplete: string[];
  lowPa: number | null;
  highPa: number | null;
  /** Sum behind the compressor. */
  chargeSidePa: number;
  worst: BudgetSection | null;
}

/** Sections in the order of the air's way; those of one kind keep their own order. */
export function inOrderOfTheWay(path: readonly PathSection[]): PathSection[] {
  return path
    .map((section, index) => ({ section, index }))
    .sort((a, b) => SECTION_KINDS.indexOf(a.section.kind) - SECTION_KINDS.indexOf(b.section.kind) || a.index - b.index)
    .map(({ section }) => section);
}

/**
 * Restriction budget of a setup: the loss of every section at the engine's air demand. Air gets thinner on its way: each section sees
 * the pressure that those before it left.
 */
export function restrictionBudget(
  setup: Pick<Setup, 'id' | 'path'>,
  conditions: BudgetConditions,
  findings: Pick<Findings, 'restriction'> | null,
): Budget {
  const { massFlowKgS, ambientPa, ambientC, charge } = conditions;
  let [inletPa, chargePa] = [ambientPa, charge?.pressurePa ?? ambientPa];
  const sections = (setup.path ?? []).map((section): BudgetSection => {
    const afterCompressor = charge !== null && AFTER_COMPRESSOR.includes(section.kind);
    const loss = sectionLoss(section, setup.id, findings);
    const none = { section, dropPa: null, lowPa: null, highPa: null, share: null, totalIfIdealPa: null, beyond: false, afterCompressor };
    if ('missing' in loss) return { ...none, missing: loss.missing };
    const pressure = afterCompressor ? chargePa : inletPa;
    const drop = dropOfLossPa(loss, massFlowKgS, pressure, afterCompressor ? charge.temperatureC : ambientC);
    if (!(drop.dropPa < pressure)) return { ...none, missing: 'it would take more pressure than there is: check area and flow' };
    if (afterCompressor) chargePa -= drop.dropPa;
    else inletPa -= drop.dropPa;
    return { ...none, ...drop, missing: null };
  });
  const before = sections.filter(({ afterCompressor }) => !afterCompressor);
  const totalPa = sum(before.map(({ dropPa }) => dropPa));
  const incomplete = before.filter(({ dropPa }) => dropPa === null).map(({ section }) => section.name);
  // Interval of a sum of independent figures: the half widths add in squares.
  const width = (side: 'lowPa' | 'highPa') => {
    const known = before.filter(({ dropPa }) => dropPa !== null);
    if (incomplete.length > 0 || known.length === 0 || known.some((entry) => entry[side] === null)) return null;
    return Math.hypot(...known.map((entry) => entry[side]! - entry.dropPa!));
  };
  const [low, high] = [width('lowPa'), width('highPa')];
  const told = sections.map((entry) => ({
    ...entry,
    share: entry.dropPa === null || entry.afterCompressor || totalPa === 0 || incomplete.length > 0 ? null : entry.dropPa / totalPa,
    totalIfIdealPa: entry.dropPa === null || entry.afterCompressor || incomplete.length > 0 ? null : totalPa - entry.dropPa,
  }));
  const worst =
    told.filter(({ dropPa, afterCompressor }) => dropPa !== null && !afterCompressor).sort((a, b) => b.dropPa! - a.dropPa!)[0] ?? null;
  return {
    setup: setup.id,
    sections: told,
    totalPa,
    incomplete,
    lowPa: low === null ? null : Math.max(0, totalPa - low),
    highPa: high === null ? null : totalPa + high,
    chargeSidePa: sum(sections.filter(({ afterCompressor }) => afterCompressor).map(({ dropPa }) => dropPa)),
    worst,
  };
}

const sum = (values: (number | null)[]) => values.reduce<number>((total, value) => total + (value ?? 0), 0);

/** What the gain at held boost rests on; both are inputs of the instrument Compressor. */
export interface BoostAssumptions {
  compressorEfficiency: number;
  coolerEffectiveness: number;
}
export const BOOST_ASSUMPTIONS: BoostAssumptions = { compressorEfficiency: COMPRESSOR_EFFICIENCY, coolerEffectiveness: 0.7 };

/** What less loss before the engine or compressor can gain at most, per cent of power. */
export interface GainAtMost {
  /** With everything between both budgets gone, and with no loss left at all. */
  candidate: { likelyPct: number; mostPct: number } | null;
  perfect: { likelyPct: number; mostPct: number };
  /** The rule behind it, in words. */
  rule: string;
}

/** What the removal of inlet loss allows; null where a section of the reference is missing, so that nobody knows its loss: naturally aspirated by formula e14; boosted by h7 with the boost held, and at most as the inlet pressure. */
export function gainAtMost(
  reference: Budget,
  candidate: Budget | null,
  conditions: BudgetConditions,
  assumed: BoostAssumptions = BOOST_ASSUMPTIONS,
): GainAtMost | null {
  const { ambientPa, aspiration, charge } = conditions;
  const from = reference.totalPa;
  if (reference.incomplete.length > 0) return null;
  const gain = (to: number) => {
    const first = gainOfLessRestriction(ambientPa, from, to);
    if (aspiration !== 'turbo' || !charge)
      return { likelyPct: 100 * first.firstOrder, mostPct: 100 * first.firstOrder * LARGEST_GAIN_FACTOR };
    const cost = inletLossCost({
      ambientPa,
      inletDropPa: from,
      extraPa: to - from,
      outletPa: charge.pressurePa,
      inletC: conditions.ambientC,
      efficiency: assumed.compressorEfficiency,
      massFlowKgS: conditions.massFlowKgS,
      coolerEffectiveness: assumed.coolerEffectiveness,
    });
    const manifoldK = 273.15 + conditions.ambientC + (1 - assumed.coolerEffectiveness) * (charge.temperatureC - conditions.ambientC);
    return { likelyPct: (-100 * cost.manifoldRiseK) / manifoldK, mostPct: 100 * first.firstOrder };
  };
  return {
    candidate: candidate && candidate.incomplete.length === 0 ? gain(candidate.totalPa) : null,
    perfect: gain(0),
    rule:
      aspiration === 'turbo' && charge
        ? `Boost held: only the cooler charge gains (compressor ${(100 * assumed.compressorEfficiency).toFixed(0)} %, cooler ${(100 * assumed.coolerEffectiveness).toFixed(0)} %: assumptions, set on Compressor). At most, with the wastegate at its end stop: power as the inlet pressure.`
        : aspiration === 'supercharged'
          ? 'A compressor driven by the crankshaft does not hold the boost: power follows the absolute inlet pressure, about 1 % a kilopascal, and the compressor’s own shaft power comes off the crankshaft; at most 1.35 times that.'
          : 'Power follows the absolute inlet pressure, about 1 % a kilopascal; at most 1.35 times that.',
  };
}

const WHAT_ALLOWS = { loss: 'the whole loss allows', part: 'the part takes away allows' };

/** What a claim of more power would need, and whether the loss that is there to be removed (by the part, where its own budget is known) allows it. */
export function claimInReach(
  claim: Claim,
  powerKW: number | null,
  limit: { mostPct: number },
  of: 'loss' | 'part' = 'loss',
): { pct: number | null; inReach: boolean | null; text: string } {
  const power = claim.quantity === 'power' || claim.quantity == null;
  const value = claim.value ?? null;
  if (!power || value === null) return { pct: null, inReach: null, text: 'A restriction says nothing of this claim.' };
  const pct = claim.unit === '%' || claim.unit === 'pct' ? value : powerKW ? (100 * claimKW(claim)) / powerKW : null;
  if (pct === null) return { pct: null, inReach: null, text: 'Say the power that the engine has, to see whether this is in reach.' };
  const inReach = pct <= limit.mostPct;
  return {
    pct,
    inReach,
    text: inReach
      ? `${pct.toFixed(1)} % is within what ${WHAT_ALLOWS[of]} (${limit.mostPct.toFixed(1)} % at most).`
      : `${pct.toFixed(1)} % is more than ${WHAT_ALLOWS[of]} (${limit.mostPct.toFixed(1)} % at most): it needs another cause, such as tract tuning or temperature.`,
  };
}

/** Conditions of a budget from the inputs of the instrument Air demand at an engine speed; null where the demand is not known there. */
export function budgetConditions(inputs: BenchInputs, aspiration: Aspiration, engineSpeedRpm: number): BudgetConditions | null {
  const { values, problems } = checkInputs(airDemandInstrument.fields, inputs);
  if (problems.length > 0) return null;
  const massFlowKgS = demandAt(values, engineSpeedRpm);
  if (massFlowKgS === null) return null;
  const [ambientPa, ambientC, manifoldPa] = ['ambientPressure', 'ambientTemperature', 'manifoldPressure'].map((name) =>
    values.number(name),
  ) as [number, number, number];
  const boosted = aspiration !== 'na' && manifoldPa > ambientPa;
  const charge = boosted
    ? { pressurePa: manifoldPa, temperatureC: compress(ambientC, manifoldPa / ambientPa, COMPRESSOR_EFFICIENCY, 0).outletC }
    : null;
  return { massFlowKgS, ambientPa, ambientC, charge, aspiration };
}

/** The budget of a pair as evidence: every section's loss, both totals, and what could be gained at most. */
export function budgetEvidence(
  budgets: readonly Budget[],
  atMost: GainAtMost | null,
  at: { engineSpeedRpm: number; conditions: BudgetConditions },
  about: { id: string; note: string },
): EvidenceDraft {
  const figures = budgets.flatMap(({ setup, sections, totalPa, incomplete, lowPa, highPa }) => [
    ...sections.map(({ section, dropPa, lowPa: low, highPa: high }): Figure => ({
      name: `${setup}/${section.id}`,
      label: `${setup}: ${section.name} (${section.source})`,
      value: dropPa,
      unit: 'kPa',
      low,
      high,
    })),
    {
      name: `${setup}/total`,
      label: `${setup}: together`,
      value: incomplete.length > 0 ? null : totalPa,
      unit: 'kPa',
      low: lowPa,
      high: highPa,
    },
  ]);
  const [first] = budgets;
  return {
    format: 'gezeit-evidence',
    version: 1,
    id: about.id,
    instrument: BUDGET,
    title: 'Restriction budget',
    sentence: first?.incomplete.length
      ? `Incomplete: ${first.incomplete.join(', ')} of ${first.setup} has no loss yet.`
      : first?.worst
        ? `Most is lost in the ${first.worst.section.name} of ${first.setup}: ${(first.worst.dropPa! / 1000).toFixed(2)} kPa of ${(first.totalPa / 1000).toFixed(2)}.`
        : 'No section has a loss yet.',
    setup: null,
    section: null,
    inputs: {
      engineSpeed: at.engineSpeedRpm,
      airMassFlow: at.conditions.massFlowKgS,
      ambientPressure: at.conditions.ambientPa,
      ambientTemperature: at.conditions.ambientC,
    },
    figures: [
      ...figures,
      ...(atMost
        ? [
            {
              name: 'atMost',
              label: 'Gain at most, no loss left',
              value: atMost.perfect.mostPct,
              unit: '%',
              low: atMost.perfect.likelyPct,
              high: atMost.perfect.mostPct,
            },
          ]
        : []),
    ],
    warnings: budgets.flatMap(({ setup, sections }) =>
      sections.flatMap(({ section, missing, beyond }) =>
        missing ? [`${setup}, ${section.name}: ${missing}.`] : beyond ? [`${setup}, ${section.name}: extrapolated.`] : [],
      ),
    ),
    formulas: ['e4', 'e6', 'e13', 'e14', 'h7'],
    assumptions: atMost ? [{ name: 'gain at most', value: atMost.rule }] : [],
    note: about.note,
  };
}

/** Name of the budget among the instruments of evidence. */
const BUDGET = 'budget';
