import type { Answer, Comparison, QuestionKind } from '@gezeit/contract';
import { listed } from '@gezeit/core';
import { withSign } from '../../shared/units/show.js';

/** What the habit would have reported, and why the verdict differs from it; null where they agree within half of what matters. */
export function maskedSentence(comparison: Comparison, smallestPct: number, startApartK: number | null, unit: string): string | null {
  const { asRun, levelled, candidate, reference } = comparison;
  if (!asRun || !levelled || Math.abs(asRun.pct - levelled.pct) < smallestPct / 2) return null;
  const look = `As run it looked like ${withSign(asRun.pct, 1)}\u00a0% (${withSign(asRun.low, 1)}\u00a0to\u00a0${withSign(asRun.high, 1)})`;
  if (startApartK === null || Math.abs(startApartK) < 2) return `${look}: heat, drift and learning may account for the rest.`;
  return `${look}: ${candidate} started ${Math.abs(startApartK).toFixed(1)}\u00a0${unit} ${startApartK > 0 ? 'hotter' : 'cooler'} than ${reference}.`;
}

const YES: Partial<Record<QuestionKind, Partial<Record<Answer['answer'], string>>>> = {
  'power-no-loss': { gain: 'yes', loss: 'no' },
  'cooler-charge': { gain: 'yes, cooler', loss: 'no, hotter' },
  'less-restriction': { gain: 'yes, less', loss: 'no, more' },
  'mixture-within': { gain: 'yes', loss: 'no' },
  'meter-unchanged': { gain: 'yes', loss: 'no' },
  'coolant-no-hotter': { gain: 'yes', loss: 'no' },
  'no-fault-codes': { gain: 'none', loss: 'there are' },
  'not-louder': { gain: 'yes', loss: 'no' },
};
const PLAIN: Record<Answer['answer'], string> = {
  gain: 'yes',
  loss: 'no, the other way',
  'no-difference': 'no difference that matters',
  'not-resolved': 'cannot be told',
  withheld: 'withheld',
};

/** The answer to a question in a word or two; a bound never reads as a gain. */
export function answerWord(kind: QuestionKind, answer: Answer['answer'], bound = false): string {
  if (bound && answer === 'gain' && (kind === 'power-gain' || kind === 'package-gain')) return 'a bound: at most';
  return YES[kind]?.[answer] ?? PLAIN[answer];
}

const STILL_IN = { tune: 'map', fuel: 'fuel', ignition: 'ignition', mixture: 'mixture', manifoldPressure: 'boost' } as const;

/** What the estimate at the same air is: the flow's doing only where nothing else is in it. */
export function sameAirShort({ sameAirContains }: Comparison): string {
  if (sameAirContains.length === 0) return 'what the flow alone did';
  return `same charge air, ${sameAirContains.length > 2 ? 'more' : listed(sameAirContains.map((name) => STILL_IN[name]))} still in it`;
}

/** The four readings of one day's pulls. */
export const ESTIMATE_WORDS = {
  asRun: {
    label: 'as run',
    short: 'as driven',
    what: 'The plain weather-corrected difference of the pulls as they were driven: what the habit would report.',
  },
  levelled: {
    label: 'levelled',
    short: 'from the same start',
    what: 'The same, judged from the same start: heat, drift, learning of the engine control and oil taken out.',
  },
  ownStart: {
    label: 'own start',
    short: 'start as the part brings it',
    what: 'As levelled, but a cooler or hotter start that the part itself brings about is counted as the part’s.',
  },
  sameAir: {
    label: 'same air',
    short: 'same charge air',
    what: 'Also at the same charge temperature in the pull and, where something holds it, the same manifold pressure: what the flow did, where ignition and mixture were held.',
  },
} as const;
