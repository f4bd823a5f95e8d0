import type { LeansOn } from '@gezeit/contract';
import type { Formatter } from '../format/formatter.js';
import { CORRECTION_NAMES } from './labels.js';
import { listed, plain, tied } from '../format/values.js';

const THEN: Readonly<Record<LeansOn['answerThen'], string>> = {
  gain: 'it would read as a gain',
  loss: 'it would read as a loss',
  'no-difference': 'it would read as no difference that matters',
  'not-resolved': 'it could not be told',
};
/** So many are named; the others stand in the list of choices. */
const MOST_NAMED = 3;

const perKelvin = (value: number) => (value === 0 ? '0' : tied(plain(100 * value, 2), '%'));
const correctionName = (name: number | string | null) => CORRECTION_NAMES[String(name)] ?? 'the estimate for boosted engines';

/** One assumption on which an answer rests: what must be about right, and what would be read otherwise. */
function leanText({ assumption, from, to, answerThen }: LeansOn, f: Formatter): string {
  const then = THEN[answerThen];
  switch (assumption) {
    case 'powerPerKelvin':
      return `on ${perKelvin(Number(from))} of power per kelvin at the start being about right: at ${perKelvin(Number(to))} ${then}`;
    case 'drift':
      return `on the drift that is allowed for: without any ${then}`;
    case 'learning':
      return `on the engine control's learning that is allowed for: without it ${then}`;
    case 'pull':
      return `on pull ${to}: without it ${then}`;
    case 'correction':
      return `on the correction, ${correctionName(from)}: ${to === 'NONE' ? 'uncorrected' : `by ${correctionName(to)}`} ${then}`;
    case 'bandLow':
      return `on where the band begins: from ${f.rpm(Number(to))} ${then}`;
    case 'bandHigh':
      return `on where the band ends: up to ${f.rpm(Number(to))} ${then}`;
    default:
      return `on ${assumption}: ${then}`;
  }
}

/** The second sentence of an answer. Pulls that say the same are named together; the first change of each assumption speaks for the others. */
export function leaningText(leansOn: readonly LeansOn[], f: Formatter): string {
  const seen = new Set<string>();
  const texts = leansOn.flatMap((lean) => {
    const key = lean.assumption === 'pull' ? `pull ${lean.answerThen}` : lean.assumption;
    if (seen.has(key)) return [];
    seen.add(key);
    const pulls =
      lean.assumption === 'pull' ? leansOn.filter((other) => other.assumption === 'pull' && other.answerThen === lean.answerThen) : [];
    if (pulls.length < 2) return [leanText(lean, f)];
    return [`on each of the pulls ${listed(pulls.map(({ to }) => String(to)))}: without one of them ${THEN[lean.answerThen]}`];
  });
  const more = texts.length - MOST_NAMED;
  return `It rests ${texts.slice(0, MOST_NAMED).join('; ')}${more > 0 ? `; and on ${more} more` : ''}.`;
}
