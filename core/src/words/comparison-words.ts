import type { Comparison } from '@gezeit/contract';
import type { Formatter } from '../format/formatter.js';
import { ends } from '../format/values.js';

/** Starts that lie closer explain nothing, K. */
const START_APART_K = 2;

/** What the habit would have reported, and why the verdict differs from it; null where they agree within half of what matters. */
export function maskedSentence(comparison: Comparison, smallestPct: number, startApartK: number | null, f: Formatter): string | null {
  const { asRun, levelled, candidate, reference } = comparison;
  if (!asRun || !levelled || Math.abs(asRun.pct - levelled.pct) < smallestPct / 2) return null;
  const look = `As run it looked like ${f.percent(asRun.pct)} (${ends(asRun.low, asRun.high)})`;
  if (startApartK === null || Math.abs(startApartK) < START_APART_K) return `${look}: heat, drift and learning may account for the rest.`;
  return `${look}: ${candidate} started ${f.temperatureSpan(startApartK)} ${startApartK > 0 ? 'hotter' : 'cooler'} than ${reference}.`;
}

const STILL_IN = { tune: 'map', fuel: 'fuel', ignition: 'ignition', mixture: 'mixture', manifoldPressure: 'boost' } as const;

/** What the estimate at the same air is: the flow's doing only where nothing else is in it. */
export function sameAirShort({ sameAirContains }: Pick<Comparison, 'sameAirContains'>): string {
  if (sameAirContains.length === 0) return 'what the flow alone did';
  return `same air with ${sameAirContains.length > 2 ? 'more' : sameAirContains.map((name) => STILL_IN[name]).join(', ')}`;
}

/** A verdict about power in a few words. */
export const VERDICT_WORDS = {
  gain: 'real gain',
  loss: 'real loss',
  'no-difference': 'no difference that matters',
  'not-resolved': 'cannot be told from noise',
  withheld: 'withheld',
} as const;

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
