import type { Affected, Claim, ClaimFinding, Evidence, Metric, Setup } from '@gezeit/contract';
import { claimKW, claimNm, isTorqueUnit } from '../units/claimed.js';
import { withholding } from '../compare/cloud.js';
import { quoted, type JudgedPair, type PairJudge } from '../compare/judged-pair.js';
import { PointDifference } from '../compare/point-difference.js';
import { comparedPairs } from '../compare/state-clouds.js';
import { claimQuestion, powerTerms, questionsOf } from '../compare/terms.js';
import { GezeitError } from '../errors.js';
import { torqueFromPowerNm } from '../units/power.js';
import { answerOf } from '../questions/index.js';
import { PACKAGE_CODES } from '../questions/package-gain.js';
import { said, type AnswerSaid, type AnySaid } from '../said.js';

interface Measured {
  of: ClaimFinding['of'];
  value: number;
  low: number;
  high: number;
  unit: string;
}

type Outcome = { state: ClaimFinding['state']; measured: Measured | null; said: AnySaid };
const notChecked = (why: AnySaid): Outcome => ({ state: 'not-checked', measured: null, said: why });

/** Holds every claim against what was measured, on the setup that it names and on the estimate that leads its question. */
export function claimFindings(judge: PairJudge, evidence: readonly Evidence[]): ClaimFinding[] {
  return (judge.bundle.programme.claims ?? []).map((claim) => {
    const pair = pairOf(judge, claim);
    const { state, measured, said: why } = outcome(judge, claim, pair, evidence);
    return {
      claim: claim.id,
      candidate: Array.isArray(pair) ? pair[1].id : (claim.setup ?? null),
      state,
      of: measured?.of ?? null,
      value: measured?.value ?? null,
      low: measured?.low ?? null,
      high: measured?.high ?? null,
      unit: measured?.unit ?? (claim.unit === 'pct' ? '%' : (claim.unit ?? '')),
      why: '',
      said: { why: [why] },
    };
  });
}

/** The pair that a claim is about: the setup that it names, or the only candidate; else why there is none. */
function pairOf({ bundle }: PairJudge, claim: Claim): [Setup, Setup] | AnySaid {
  const pairs = comparedPairs(bundle);
  if (pairs.length === 0) return said('claim-nothing-compared', {});
  if (claim.setup != null)
    return pairs.find(([, candidate]) => candidate.id === claim.setup) ?? said('claim-setup-not-compared', { setup: claim.setup });
  const candidates = [...new Set(pairs.map(([, candidate]) => candidate.id))];
  return candidates.length === 1 ? pairs[0]! : said('claim-no-setup', { setups: candidates });
}

function outcome(judge: PairJudge, claim: Claim, pair: [Setup, Setup] | AnySaid, evidence: readonly Evidence[]): Outcome {
  if (!Array.isArray(pair)) return notChecked(pair);
  const quantity = claim.quantity ?? 'power';
  const [reference, candidate] = pair;
  try {
    switch (quantity) {
      case 'flow':
        return ofFlow(claim, candidate, evidence);
      case 'temperature':
        return ofQuestion(judge, claim, pair, 'cooler-charge', 'K');
      case 'restriction':
        return ofQuestion(judge, claim, pair, 'less-restriction', claim.unit === 'kPa' ? 'kPa' : 'pct');
      case 'no-loss':
      case 'no-difference':
      case 'power':
      case 'torque':
        return ofPower(judge, claim, judge.judge(reference, candidate, termsOf(judge, claim)));
      default:
        return notChecked(said('claim-not-measured', { quantity }));
    }
  } catch (error) {
    if (!(error instanceof GezeitError)) throw error;
    return notChecked(said('claim-refused', { text: error.line }));
  }
}

/** Terms of the question that leads for a claim; a claim of torque is held against torque, one of power against power. */
function termsOf({ bundle }: PairJudge, claim: Claim) {
  const noLoss = claim.quantity === 'no-loss' ? (questionsOf(bundle).find(({ kind }) => kind === 'power-no-loss') ?? null) : null;
  const terms = powerTerms(bundle, noLoss ?? claimQuestion(bundle));
  const wanted =
    claim.quantity === 'no-loss' || claim.quantity === 'no-difference'
      ? null
      : isTorqueUnit(claim.unit) || claim.quantity === 'torque'
        ? 'Torque'
        : 'Power';
  const metric = wanted === null ? terms.metric : (terms.metric.replace(/Power|Torque/, wanted) as Metric);
  return { ...terms, metric, bandRpm: claim.bandRpm ?? terms.bandRpm };
}

function ofPower(judge: PairJudge, claim: Claim, pair: JudgedPair): Outcome {
  const { bundle } = judge;
  if (!pair.fitted) return notChecked(said('claim-nothing-compared', {}));
  const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
  const powerAt = cells[0]?.powerAt;
  if (claim.powerAt && powerAt && claim.powerAt !== powerAt)
    return notChecked(said('claim-other-place', { claimed: claim.powerAt, measured: powerAt }));
  const { of, estimate, reason } = quoted(pair);
  if (!estimate) return { state: 'withheld', measured: null, said: said('claim-withheld', { because: [reason!] }) };
  const inPct: Measured = { of, value: estimate.pct, low: estimate.low, high: estimate.high, unit: '%' };
  // A limit of its own counts, or the question's where none is named.
  const limitPct = claim.value != null && claim.value > 0 ? claim.value : pair.terms.smallestPct;
  if (claim.quantity === 'no-loss') return ofNoLoss(judge, pair, inPct, limitPct);
  if (claim.quantity === 'no-difference') return ofNoDifference(judge, pair, inPct, limitPct);
  const measured = powerMeasured(judge, claim, pair, of);
  if ('code' in measured) return notChecked(measured);
  const claimed =
    claim.value == null ? null : measured.unit === '%' ? claim.value : measured.unit === 'N·m' ? claimNm(claim) : claimKW(claim);
  return withheldOr(judge, pair, measured, judged(measured, claimed, 'at least'));
}

function ofNoDifference(judge: PairJudge, pair: JudgedPair, measured: Measured, smallestPct: number): Outcome {
  const { low, high } = measured;
  const found: Outcome =
    low > -smallestPct && high < smallestPct
      ? { state: 'holds', measured, said: said('claim-no-difference-holds', { smallestPct }) }
      : low >= smallestPct || high <= -smallestPct
        ? { state: 'contradicted', measured, said: said('claim-differs', { smallestPct }) }
        : { state: 'open', measured, said: said('claim-open', {}) };
  return withheldOr(judge, pair, measured, found);
}

function ofNoLoss(judge: PairJudge, pair: JudgedPair, measured: Measured, smallestPct: number): Outcome {
  const found: Outcome =
    measured.low > -smallestPct
      ? { state: 'holds', measured, said: said('claim-no-loss-holds', { smallestPct }) }
      : measured.high < -smallestPct
        ? { state: 'contradicted', measured, said: said('claim-loses', { atLeastPct: -measured.high }) }
        : { state: 'open', measured, said: said('claim-no-loss-open', {}) };
  return withheldOr(judge, pair, measured, found);
}

/** A claim goes through the rules of its question: where that answer is withheld, so is the claim; a loss stands where only the reference was poor. */
function withheldOr({ bundle }: PairJudge, { clouds, bandWithheld }: JudgedPair, measured: Measured, found: Outcome): Outcome {
  const except = claimQuestion(bundle)?.kind === 'package-gain' ? PACKAGE_CODES : [];
  const because = [
    ...(bandWithheld ? [bandWithheld] : []),
    ...withholding(clouds, 'power' satisfies Affected, { except, isLoss: measured.high < 0 }),
  ];
  return because.length > 0 ? { state: 'withheld', measured, said: said('claim-withheld', { because }) } : found;
}

/** Difference at the claimed engine speed, or over the band, in per cent, kW or N·m. */
function powerMeasured(judge: PairJudge, claim: Claim, pair: JudgedPair, of: 'levelled' | 'ownStart'): Measured | AnySaid {
  const percent = claim.unit === '%' || claim.unit === 'pct';
  const torque = isTorqueUnit(claim.unit);
  const estimate = quoted(pair).estimate!;
  const rpm = claim.atRpm ?? null;
  if (rpm === null && percent) return { of, value: estimate.pct, low: estimate.low, high: estimate.high, unit: '%' };
  const points = PointDifference.of(judge, pair);
  if (!points) return said('claim-no-curve', {});
  const at = rpm === null ? estimate : claim.afterwards ? points.wholeCurveAt(rpm) : points.at(rpm);
  if (!at) return said('claim-out-of-reach', { rpm: rpm! });
  if (percent) return { of, value: at.pct, low: at.low, high: at.high, unit: '%' };
  const base = baseOf(points, pair, rpm, torque);
  if (!Number.isFinite(base)) return rpm === null ? said('claim-no-curve', {}) : said('claim-out-of-reach', { rpm });
  const scaled = (value: number) => (value / 100) * base;
  return { of, value: scaled(at.pct), low: scaled(at.low), high: scaled(at.high), unit: torque ? 'N·m' : 'kW' };
}

/** What the reference makes at an engine speed, or (mean or peak) in the band: kW, or N·m. */
function baseOf(points: PointDifference, { reference, band, terms }: JudgedPair, rpm: number | null, torque: boolean): number {
  const value = (at: number) => {
    const powerW = points.powerW(reference.id, at);
    return torque ? torqueFromPowerNm(powerW, at) : powerW / 1000;
  };
  if (rpm !== null) return value(rpm);
  const [low, high] = band.band;
  const known = points.speedsRpm.filter((at) => at >= low && at <= high).map(value);
  return terms.metric.startsWith('peak') ? Math.max(...known) : known.reduce((sum, entry) => sum + entry, 0) / known.length;
}

/** Held against the answer to a question of a kind; withheld where that is. */
function ofQuestion(
  judge: PairJudge,
  claim: Claim,
  [reference, candidate]: [Setup, Setup],
  kind: 'cooler-charge' | 'less-restriction',
  unit: 'K' | 'kPa' | 'pct',
): Outcome {
  const question = questionsOf(judge.bundle).find((entry) => entry.kind === kind);
  if (!question) return notChecked(said('claim-ask-first', { kind }));
  const {
    answer,
    of,
    estimate,
    low,
    high,
    said: told,
  } = answerOf({ ...question, unit: unit === 'K' ? question.unit : unit }, { judge, reference, candidate });
  if (estimate === null || low === null || high === null) return notChecked(told[0]!);
  const measured: Measured = { of, value: estimate, low, high, unit: unit === 'pct' ? '%' : unit };
  if (answer === 'withheld') {
    const because = told.flatMap((entry) => (entry.code === 'withheld' ? (entry.values as AnswerSaid['withheld']).because : []));
    return { state: 'withheld', measured, said: said('claim-withheld', { because }) };
  }
  return judged(measured, claim.value ?? null, 'at most');
}

/** A flow claim is held against a comparison of the flow bench that is about the setup that it names, and against no other. */
function ofFlow(claim: Claim, candidate: Setup, evidence: readonly Evidence[]): Outcome {
  const linked = new Map(
    (candidate.path ?? []).flatMap(({ bench, name }) =>
      bench?.evidence ? [[bench.evidence, { section: name, item: bench.item ?? null }] as const] : [],
    ),
  );
  const found = evidence.flatMap((entry) => {
    if (entry.instrument !== 'flow-bench') return [];
    const link = linked.get(entry.id);
    if (entry.setup !== candidate.id && !link) return [];
    return entry.figures.flatMap((figure) => {
      if (!figure.name.endsWith(MORE_FLOW) || figure.value === null || figure.low == null || figure.high == null) return [];
      const item = figure.name.slice(0, -MORE_FLOW.length);
      if (link?.item && link.item !== item) return [];
      const measured: Measured = { of: 'flowBench', value: figure.value, low: figure.low, high: figure.high, unit: '%' };
      return [{ item, section: link?.section ?? entry.section ?? null, measured }];
    });
  });
  const wanted = typeof claim['section'] === 'string' ? found.filter(({ section }) => section === claim['section']) : found;
  if (wanted.length === 0) return notChecked(said('claim-flow-missing', { setup: candidate.id }));
  if (wanted.length > 1) return notChecked(said('claim-flow-several', { setup: candidate.id, items: wanted.map(({ item }) => item) }));
  return judged(wanted[0]!.measured, claim.value ?? null, 'at least');
}
const MORE_FLOW = '/moreFlow';

function judged(measured: Measured, claimed: number | null, sense: 'at least' | 'at most'): Outcome {
  if (claimed === null) return { state: 'not-checked', measured, said: said('claim-no-figure', {}) };
  // Ends as they are printed: who repeats a figure of the sheet says no more than the sheet.
  const [low, high] = [asPrinted(measured.low, measured.unit), asPrinted(measured.high, measured.unit)];
  const [worst, best] = sense === 'at least' ? [low - claimed, high - claimed] : [claimed - high, claimed - low];
  if (worst >= 0) return { state: 'holds', measured, said: said('claim-holds', {}) };
  if (best < 0) return { state: 'contradicted', measured, said: said('claim-contradicted', {}) };
  return { state: 'open', measured, said: said('claim-open', {}) };
}

/** A figure at the digit to which it is printed. */
function asPrinted(value: number, unit: string): number {
  const digits = unit === 'kPa' ? 2 : 1;
  return Number(value.toFixed(digits));
}
