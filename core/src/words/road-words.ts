import type { Findings } from '@gezeit/contract';
import type { Formatter } from '../format/formatter.js';
import { plain, signed, tied } from '../format/values.js';

type RoadPair = Findings['road']['pairs'][number];

/** What two setups have in common in a gear on the road: the time through it, and how fast the intake air rose. */
export function roadPairText(pair: RoadPair, f: Formatter): string {
  const { reference, candidate, gear, fromRpm, toRpm, unequal, runs, referenceS, seconds, risePerS } = pair;
  const common = `${f.band([fromRpm, toRpm])}${unequal ? ', which all runs have; what some drove beyond is left out' : ''}`;
  const heat =
    risePerS?.low != null && risePerS.high !== null
      ? `; rise of intake air ${perSecond(risePerS.value, risePerS.low, risePerS.high, f)}`
      : '';
  return `Gear ${gear}, ${common}: ${candidate} against ${reference}${seconds ? ` ${timeText(seconds, f)}` : ''} of ${tied(plain(referenceS, 2), 's')}${heat}; ${runs.candidate} and ${runs.reference} runs.`;
}

function timeText({ value, low, high }: NonNullable<RoadPair['seconds']>, f: Formatter): string {
  return low === null || high === null
    ? `${f.figure('seconds', value)}, one run each: no interval`
    : f.interval('seconds', { value, low, high });
}

function perSecond(value: number, low: number, high: number, f: Formatter): string {
  const text = (own: number) => signed(f.shownValue(own, 'K', true), 2);
  return `${tied(text(value), `${f.shownUnit('K', true)}/s`)} (${text(low)} to ${text(high)})`;
}
