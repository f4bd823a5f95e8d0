import type { Answer, Comparison, QuestionKind } from '@gezeit/contract';
import { withSign } from '../../shared/units/show.js';

/** The lead of the verdict: a few words, a figure, and the rest of the line. */
export interface Headline {
  tone: 'gain' | 'loss' | 'plain';
  lead: string;
  figure: string | null;
  rest: string;
}

/** The verdict as a headline. */
export function headline(comparison: Comparison, smallestPct: number, candidateName: string): Headline {
  const { verdict, levelled } = comparison;
  const leading = leadingEstimate(comparison);
  const range = leading ? `(${withSign(leading.low, 1)} to ${withSign(leading.high, 1)})` : '';
  const figure = leading ? `${withSign(leading.pct, 1)} %` : null;
  const larger =
    leading && (leading.low > smallestPct || leading.high < -smallestPct) ? `, more than the ${smallestPct} % that matters` : '';
  const open =
    leading && leading.low > 0 && leading.low < smallestPct && leading.high > smallestPct
      ? `; whether more than the ${smallestPct} % that matters is open`
      : '';
  const inside =
    leading && leading.low > -smallestPct && leading.high < smallestPct ? `, smaller than the ${smallestPct} % that matters` : '';
  switch (verdict.power) {
    case 'gain':
      return { tone: 'gain', lead: 'Real gain:', figure, rest: `${range} in the band${larger || inside || open}.` };
    case 'loss':
      return { tone: 'loss', lead: 'Real loss:', figure, rest: `${range} in the band${larger || inside}.` };
    case 'no-difference':
      return { tone: 'plain', lead: 'No difference that matters:', figure, rest: `${range}, inside ±${smallestPct} %.` };
    case 'not-resolved':
      return {
        tone: 'plain',
        lead: levelled ? `${candidateName} cannot be distinguished from noise:` : 'Nothing to compare yet.',
        figure,
        rest: levelled ? `${range} in the band.` : '',
      };
    case 'withheld':
      return {
        tone: 'plain',
        lead: 'No verdict on the power: something else changed.',
        figure: null,
        rest: '',
      };
  }
}

/** The estimate that leads: the one whose figures the sentence of the verdict gives. */
export function leadingEstimate(comparison: Comparison): Comparison['levelled'] {
  const own = comparison.ownStart;
  const saysOwn = comparison.verdict.why.includes('start that the part itself brings about');
  return saysOwn && own ? own : comparison.levelled;
}

/** What the habit would have reported, and why the verdict differs from it; null where they agree within half of what matters. */
export function maskedSentence(comparison: Comparison, smallestPct: number, startApartK: number | null, unit: string): string | null {
  const { asRun, levelled, candidate, reference } = comparison;
  if (!asRun || !levelled || Math.abs(asRun.pct - levelled.pct) < smallestPct / 2) return null;
  const look = `As run it looked like ${withSign(asRun.pct, 1)} % (${withSign(asRun.low, 1)} to ${withSign(asRun.high, 1)})`;
  if (startApartK === null || Math.abs(startApartK) < 2) return `${look}: heat, drift and learning account for the rest.`;
  return `${look}: ${candidate} started ${Math.abs(startApartK).toFixed(1)} ${unit} ${startApartK > 0 ? 'hotter' : 'cooler'} than ${reference}.`;
}

export const ANSWER_KINDS: Record<QuestionKind, string> = {
  'power-gain': 'Gain in power',
  'power-no-loss': 'Loses nothing',
  'package-gain': 'Part and tune together',
  'cooler-charge': 'Cooler charge',
  'less-restriction': 'Less restriction',
  'no-fault-codes': 'No fault codes',
  'meter-unchanged': 'Air meter unchanged',
  'mixture-within': 'Mixture within limits',
  'coolant-no-hotter': 'Coolant no hotter',
  'not-louder': 'No louder',
};

const YES: Partial<Record<QuestionKind, Partial<Record<Answer['answer'], string>>>> = {
  'power-no-loss': { gain: 'yes' },
  'mixture-within': { 'no-difference': 'yes', loss: 'no' },
  'meter-unchanged': { 'no-difference': 'yes', loss: 'no' },
  'coolant-no-hotter': { 'no-difference': 'yes', loss: 'no' },
};
const PLAIN: Record<Answer['answer'], string> = {
  gain: 'yes',
  loss: 'no, the other way',
  'no-difference': 'no difference that matters',
  'not-resolved': 'cannot be told',
  withheld: 'withheld',
};

/** The answer to a question in a word or two. */
export function answerWord(kind: QuestionKind, answer: Answer['answer']): string {
  return YES[kind]?.[answer] ?? PLAIN[answer];
}

export const ESTIMATE_WORDS = {
  asRun: {
    label: 'as run',
    short: 'as driven',
    what: 'The plain weather-corrected difference of the pulls as they were driven: what the habit would report.',
  },
  levelled: {
    label: 'levelled',
    short: 'from the same start',
    what: 'The same, judged from the same start: heat, drift, learning of the engine control and oil taken out. This is the verdict’s number.',
  },
  ownStart: {
    label: 'own start',
    short: 'start as the part brings it',
    what: 'As levelled, but a cooler or hotter start that the part itself brings about is counted as the part’s.',
  },
  sameAir: {
    label: 'same air',
    short: 'what the flow alone did',
    what: 'Also at the same charge temperature in the pull and, where something holds it, the same manifold pressure: what the flow alone did.',
  },
} as const;
