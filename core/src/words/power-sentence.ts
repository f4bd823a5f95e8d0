import type { Metric } from '@gezeit/contract';
import type { PowerSaid } from '../said.js';
import type { AnswerParts } from './answer-parts.js';
import type { Formatter } from '../format/formatter.js';
import { CORRECTION_NAMES, METRIC_WORDS } from './labels.js';
import { listed, sentence, tied } from '../format/values.js';

/** From which start a figure is judged. */
export const START_TERMS = { levelled: 'from the same start', ownStart: 'with the start that the part itself brings about' };

/** Under which terms a figure about power stands: metric, place, correction, band. */
function termsText({ metric, powerAt, correction, bandRpm }: PowerSaid, f: Formatter): string {
  return `${METRIC_WORDS[metric as Metric]} at the ${powerAt}, ${CORRECTION_NAMES[correction] ?? correction}, ${f.band(bandRpm)}`;
}

/** What must never be dropped beside a figure about power. */
function reservations({ together, typed, single, capped, bandRpm }: PowerSaid, f: Formatter): string[] {
  return [
    ...(capped ? [`Above ${f.rpm(bandRpm[1])} the engine control closes the throttle with ${capped}.`] : []),
    ...(together ? ['The parts are judged together.'] : []),
    ...(single.length > 0 ? [`There is only one used pull of ${listed(single)}.`] : []),
    ...(typed ? ['Some figures were typed from a screen or sheet.'] : []),
  ];
}

/** What a figure is worth against what matters. */
function size({ answer, estimate, smallestPct }: PowerSaid): string {
  if (answer !== 'gain' && answer !== 'loss') return '';
  const limit = `the ${tied(`${smallestPct}`, '%')} that matters`;
  if (estimate.low > -smallestPct && estimate.high < smallestPct) return `, real but smaller than ${limit}`;
  if (estimate.low > smallestPct || estimate.high < -smallestPct) return `, more than ${limit}`;
  return `; whether it is more than ${limit} is open`;
}

/** The figure with its interval. */
export const shownEstimate = ({ estimate }: PowerSaid, f: Formatter) => f.interval('percent', estimate);

/** The sentence that leads: what the candidate does against the reference, its figure set off. */
export function powerLead(said: PowerSaid, f: Formatter): Omit<AnswerParts, 'second'> {
  const { answer, candidate, reference, estimate, smallestPct, bound, of } = said;
  const figure = shownEstimate(said, f);
  if (bound)
    return {
      before: `${candidate} is a bound, never for sale: at most ${f.percent(Math.max(0, estimate.high))} is to be had upstream of here (measured `,
      figure,
      after: `, ${START_TERMS[of]}).`,
    };
  const end = `, ${START_TERMS[of]}${size(said)}.`;
  switch (answer) {
    case 'gain':
      return { before: `${candidate} gains `, figure, after: ` on ${reference}${end}` };
    case 'loss':
      return { before: `${candidate} loses against ${reference}: `, figure, after: end };
    case 'no-difference':
      return {
        before: `No difference that matters between ${candidate} and ${reference}: `,
        figure,
        after: `, inside ±${tied(`${smallestPct}`, '%')}${end}`,
      };
    default:
      return { before: `What ${candidate} does against ${reference} cannot be told from noise, order and learning: `, figure, after: end };
  }
}

/** Terms, pulls, and what must never be dropped. */
export const powerTerms = (said: PowerSaid, f: Formatter): string[] => [
  `${sentence(termsText(said, f))}; ${said.pulls.reference} and ${said.pulls.candidate} pulls.`,
  ...reservations(said, f),
];
