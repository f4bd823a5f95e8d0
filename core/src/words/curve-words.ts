import type { BandPart, DifferenceCurve } from '@gezeit/contract';
import type { Formatter } from '../format/formatter.js';
import { METRIC_WORDS } from './labels.js';
import { HINT_WORDS } from './verdict-words.js';

/** What the shape of a difference says: where it is real, where the peaks stand, and what it fits; of a withheld answer nothing is called real. */
export function shapeText({ real, peak, hints }: DifferenceCurve, withheld: boolean, f: Formatter): string {
  const ranges = (isLoss: boolean) => real.filter((entry) => entry.isLoss === isLoss).map(({ fromRpm, toRpm }) => f.band([fromRpm, toRpm]));
  const [gains, losses] = [ranges(false), ranges(true)];
  return [
    ...(gains.length + losses.length === 0 ? ['Nowhere does the band of the whole curve leave zero.'] : []),
    ...(gains.length > 0 ? [`${withheld ? 'Measured all the same, above zero' : 'Real gain'}: ${gains.join('; ')}.`] : []),
    ...(losses.length > 0 ? [`${withheld ? 'Below zero' : 'Real loss'}: ${losses.join('; ')}.`] : []),
    ...(peak ? [peakText(peak, f)] : []),
    ...(withheld ? [] : hints.map((hint) => HINT_WORDS[hint])),
  ].join(' ');
}

function peakText({ moved, referenceRpm, candidateRpm }: NonNullable<DifferenceCurve['peak']>, f: Formatter): string {
  return moved
    ? `The peak of power has moved from ${f.rpm(referenceRpm)} to ${f.rpm(candidateRpm)}.`
    : `The peak of power stands where it stood, near ${f.rpm(referenceRpm)}.`;
}

/** What a part of the band is called in a table. */
export function bandPartLabel({ kind, metric, fromRpm, toRpm }: BandPart, f: Formatter): string {
  if (kind === 'metric') return `${METRIC_WORDS[metric]} in the band`;
  if (kind === 'claimed') return `at the claimed ${f.rpm(fromRpm)}`;
  const range = f.band([fromRpm, toRpm]);
  return kind === 'outside' ? `${range}, not asked` : range;
}
