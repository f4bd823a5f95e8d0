import type { Answer, Confound, EstimatePct, Question } from '@gezeit/contract';
import { RESTRICTION_ASSUMPTIONS, TEMPERATURE_ASSUMPTIONS, type Assumptions } from '../judge/assumptions.js';
import { fitPlain } from '../judge/estimates.js';
import type { Estimate } from '../judge/fit.js';
import { pooledDifference } from '../judge/pooled-difference.js';
import { gainVerdict, noLossVerdict, percentOf } from '../judge/verdict.js';
import { bandMean, type Band } from '../pull/band.js';
import type { AnalysedPull } from './analysed-pull.js';
import { airAgainstFuel } from './confounds.js';
import { chargeKey, daySeries, type ValueOf } from './day-series.js';
import { sectionArea, sectionsOf } from './restriction.js';
import { signed, withInterval } from './text.js';

/** What the answers of one comparison are made from. */
export interface AnswerInput {
  pulls: AnalysedPull[];
  reference: string;
  candidate: string;
  band: Band;
  leading: EstimatePct | null;
  levelled: EstimatePct | null;
  confounds: Confound[];
  /** Reason why power is withheld whatever the question's kind (a band too small), else null. */
  bandWithheld: string | null;
  smallestGainPct: number;
  powerAnswer: { answer: Answer['answer']; why: string };
  assumptions: Assumptions;
}

type Body = Omit<Answer, 'question'>;
/** Confounds that a package contains by definition. */
const PACKAGE_CODES = ['tune-changed', 'boost-target-changed', 'boost-changed', 'timing-changed', 'fuelling-changed'];
const DEFAULT_LIMITS: Partial<Record<Question['kind'], { smallest: number; unit: string }>> = {
  'cooler-charge': { smallest: 3, unit: 'K' },
  'less-restriction': { smallest: 5, unit: 'pct' },
  'meter-unchanged': { smallest: 2.5, unit: 'pct' },
  'mixture-within': { smallest: 0.02, unit: 'lambda' },
  'coolant-no-hotter': { smallest: 3, unit: 'K' },
  'not-louder': { smallest: 1, unit: 'dB' },
};

/** The answer to one question of a programme for one comparison; each is answered on its own. */
export function answerOf(question: Question, input: AnswerInput): Answer {
  return { question: question.id, ...bodyOf(question, input) };
}

function bodyOf(question: Question, input: AnswerInput): Body {
  const fallback = DEFAULT_LIMITS[question.kind] ?? { smallest: input.smallestGainPct, unit: 'pct' };
  const smallest = question.smallest ?? fallback.smallest;
  const unit = question.unit ?? fallback.unit;
  switch (question.kind) {
    case 'power-gain':
      return { ...input.powerAnswer, ...numbers(input.leading), unit: 'pct' };
    case 'power-no-loss':
      return noLoss(input, smallest);
    case 'package-gain':
      return packageGain(input, smallest);
    case 'cooler-charge':
      return coolerCharge(input, smallest);
    case 'less-restriction':
      return lessRestriction(input, smallest, question.section ?? null);
    case 'mixture-within':
      return within(input, smallest, unit, 'lambda', 'mixture', ({ curve }) => curve && bandMean(curve, 'lambda', input.band));
    case 'meter-unchanged':
      return within(input, smallest, unit, '%', 'the meter against the fuel', (entry) => percentFromLog(airAgainstFuel(entry, input.band)));
    case 'coolant-no-hotter':
      return within(
        input,
        smallest,
        unit,
        'K',
        'coolant in the band',
        ({ curve }) => curve && bandMean(curve, 'coolantTemperature', input.band),
        true,
      );
    case 'no-fault-codes':
    case 'not-louder':
      return nothing(unit, `No evidence for this is recorded yet: enter it under Record.`);
  }
}

const percentFromLog = (value: number | null) => (value === null ? null : 100 * value);

function numbers(estimate: EstimatePct | null) {
  return { estimate: estimate?.pct ?? null, low: estimate?.low ?? null, high: estimate?.high ?? null };
}

function nothing(unit: string, why: string, answer: Answer['answer'] = 'not-resolved'): Body {
  return { answer, estimate: null, low: null, high: null, unit, why };
}

function withholding(confounds: Confound[], what: Confound['withholds'][number], except: string[] = []): string | null {
  const found = confounds.filter(({ code, withholds }) => withholds.includes(what) && !except.includes(code));
  return found.length === 0 ? null : found.map(({ detail }) => detail).join('; ');
}

function noLoss(input: AnswerInput, smallest: number): Body {
  const { leading } = input;
  if (!leading) return nothing('pct', 'No pulls to compare.');
  const because = input.bandWithheld ?? withholding(input.confounds, 'power');
  const shown = withInterval(leading.pct, leading.low, leading.high, '%');
  if (because) return { answer: 'withheld', ...numbers(leading), unit: 'pct', why: `Withheld: ${because}.` };
  const answer = noLossVerdict({ value: leading.pct, low: leading.low, high: leading.high }, smallest);
  const words = { gain: 'Does not lose', loss: 'Loses', 'not-resolved': 'Whether it loses cannot be told' }[answer];
  return { answer, ...numbers(leading), unit: 'pct', why: `${words}: ${shown} against a loss of ${smallest} % that would matter.` };
}

function packageGain(input: AnswerInput, smallest: number): Body {
  const { levelled } = input;
  if (!levelled) return nothing('pct', 'No pulls to compare.');
  const because = input.bandWithheld ?? withholding(input.confounds, 'power', PACKAGE_CODES);
  const shown = withInterval(levelled.pct, levelled.low, levelled.high, '%');
  if (because) return { answer: 'withheld', ...numbers(levelled), unit: 'pct', why: `Withheld: ${because}.` };
  const answer = gainVerdict({ value: levelled.pct, low: levelled.low, high: levelled.high }, smallest);
  return { answer, ...numbers(levelled), unit: 'pct', why: `Part and tune together: ${shown}.` };
}

/** Mean charge temperature in the band above the cooling air, else above ambient, K. */
export const chargeAboveCoolingAirK: ValueOf = (entry, band) => {
  const { curve, air } = entry;
  if (!curve) return null;
  const charge = bandMean(curve, chargeKey(entry), band);
  const cooling = bandMean(curve, 'coolingAirTemperature', band) ?? air?.temperatureC ?? null;
  return charge === null || cooling === null ? null : charge - cooling;
};

function coolerCharge(input: AnswerInput, smallest: number): Body {
  const fit = plainFit(input, chargeAboveCoolingAirK, TEMPERATURE_ASSUMPTIONS);
  if (!fit) return nothing('K', 'The charge temperature is not logged with both setups.');
  const because = withholding(input.confounds, 'temperature');
  const shown = withInterval(fit.value, fit.low, fit.high, 'K');
  if (because) return { answer: 'withheld', estimate: fit.value, low: fit.low, high: fit.high, unit: 'K', why: `Withheld: ${because}.` };
  const answer = gainVerdict({ value: -fit.value, low: -fit.high, high: -fit.low }, smallest);
  const words = {
    gain: 'The charge is cooler',
    loss: 'The charge is hotter',
    'no-difference': 'No difference that matters',
    'not-resolved': 'Cannot be distinguished from noise',
  };
  return {
    answer,
    estimate: fit.value,
    low: fit.low,
    high: fit.high,
    unit: 'K',
    why: `${words[answer]}: ${shown} in the band, above the cooling air.`,
  };
}

function plainFit(
  input: AnswerInput,
  valueOf: ValueOf,
  assumptions: typeof TEMPERATURE_ASSUMPTIONS | typeof RESTRICTION_ASSUMPTIONS,
): Estimate | null {
  const pair = input.pulls.filter(({ pull }) => pull.setup === input.reference || pull.setup === input.candidate);
  const day = daySeries(pair, input.reference, input.band, valueOf);
  if (!day || !day.setups.includes(input.candidate)) return null;
  return fitPlain(day.series, assumptions, input.assumptions).estimates[0]!;
}

function lessRestriction(input: AnswerInput, smallest: number, asked: string | null): Body {
  const sections = sectionsOf(input.pulls, [input.reference, input.candidate]);
  const section = asked === null ? (sections.find((name) => name === 'tract') ?? sections[0]) : sections.find((name) => name === asked);
  if (section === undefined) return nothing('pct', 'Pressure drop and air mass flow are not logged with both setups.');
  const fit = plainFit(input, (entry, band) => logOf(sectionArea(entry, section, band)), RESTRICTION_ASSUMPTIONS);
  if (!fit) return nothing('pct', `The pressure drop over ${section || 'the part'} is not logged with both setups.`);
  const estimate = { pct: percentOf(fit.value), low: percentOf(fit.low), high: percentOf(fit.high) };
  const because = withholding(input.confounds, 'restriction');
  if (because) return { answer: 'withheld', ...numbers(estimate), unit: 'pct', why: `Withheld: ${because}.` };
  const answer = gainVerdict({ value: estimate.pct, low: estimate.low, high: estimate.high }, smallest);
  return {
    answer,
    ...numbers(estimate),
    unit: 'pct',
    why: `Effective area over ${section || 'the part'}: ${withInterval(estimate.pct, estimate.low, estimate.high, '%')}.`,
  };
}

const logOf = (value: number | null) => (value === null || value <= 0 ? null : Math.log(value));

/** A quantity that must stay within a limit: a plain difference with a Student interval. */
function within(
  input: AnswerInput,
  smallest: number,
  unit: string,
  shownUnit: string,
  what: string,
  value: (entry: AnalysedPull) => number | null,
  upwardsOnly = false,
): Body {
  const of = (setup: string) =>
    input.pulls
      .filter((entry) => entry.used && entry.pull.setup === setup)
      .map(value)
      .filter((entry) => entry !== null);
  const difference = pooledDifference(of(input.reference), of(input.candidate));
  if (!difference) return nothing(unit, `Not logged with both setups: ${what}.`);
  const { value: estimate, low, high } = difference;
  if (low === null || high === null)
    return { answer: 'not-resolved', estimate, low, high, unit, why: `One pull of each cannot show it: ${what}.` };
  const inside = high < smallest && (upwardsOnly || low > -smallest);
  const outside = low > smallest || (!upwardsOnly && high < -smallest);
  const digits = unit === 'lambda' ? 3 : 1;
  const shown = `${signed(estimate, digits)} ${shownUnit} (${signed(low, digits)} to ${signed(high, digits)})`;
  const answer = inside ? 'no-difference' : outside ? 'loss' : 'not-resolved';
  const words = { 'no-difference': 'Within the limit', loss: 'Outside the limit', 'not-resolved': 'Cannot be told' }[answer];
  return { answer, estimate, low, high, unit, why: `${words} of ${smallest} ${shownUnit}: ${what} ${shown}.` };
}
