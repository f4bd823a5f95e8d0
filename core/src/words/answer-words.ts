import type { Metric, QuestionKind } from '@gezeit/contract';
import type { AnswerCode, AnswerSaid, PowerSaid } from '../said.js';
import type { Formatter } from './formatter.js';
import { channelWord, COLD_SIDE_WORDS, CORRECTION_NAMES, METRIC_WORDS, QUESTION_LABELS } from './labels.js';
import { listed, sentence, signed, tied } from './values.js';
import type { SayInner, Writers } from './writers.js';

const START = { levelled: 'from the same start', ownStart: 'with the start that the part itself brings about' };

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

/** An answer's sentences: the first with its figure apart, so that a headline can set it off; and what stands behind it. */
export interface AnswerParts {
  before: string;
  figure: string;
  after: string;
  second: string[];
}

const plainly = (text: string): AnswerParts => ({ before: text, figure: '', after: '', second: [] });

/** What a figure is worth against what matters. */
function size({ answer, estimate, smallestPct }: PowerSaid): string {
  if (answer !== 'gain' && answer !== 'loss') return '';
  const limit = `the ${tied(`${smallestPct}`, '%')} that matters`;
  if (estimate.low > -smallestPct && estimate.high < smallestPct) return `, real but smaller than ${limit}`;
  if (estimate.low > smallestPct || estimate.high < -smallestPct) return `, more than ${limit}`;
  return `; whether it is more than ${limit} is open`;
}

const shown = ({ estimate }: PowerSaid, f: Formatter) => f.interval('percent', estimate);

function powerLead(said: PowerSaid, f: Formatter): Omit<AnswerParts, 'second'> {
  const { answer, candidate, reference, estimate, smallestPct, bound, of } = said;
  const figure = shown(said, f);
  if (bound)
    return {
      before: `${candidate} is a bound, never for sale: at most ${f.percent(Math.max(0, estimate.high))} is to be had upstream of here (measured `,
      figure,
      after: `, ${START[of]}).`,
    };
  const end = `, ${START[of]}${size(said)}.`;
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
const behind = (said: PowerSaid, f: Formatter): string[] => [
  `${sentence(termsText(said, f))}; ${said.pulls.reference} and ${said.pulls.candidate} pulls.`,
  ...reservations(said, f),
];

const because = (reasons: readonly { code: string; values: unknown }[], say: SayInner) =>
  reasons.map((entry) => say(entry).replace(/\.$/, '')).join('; ');

/** What must stay within a limit, and how its figures are shown. */
const LIMIT_WORDS: Partial<
  Record<QuestionKind, { what: string; kind: 'percent' | 'temperatureDifference' | 'lambda'; limit(limit: number, f: Formatter): string }>
> = {
  'mixture-within': { what: 'the mixture', kind: 'lambda', limit: (limit) => `±${tied(limit.toFixed(3), 'λ')}` },
  'meter-unchanged': { what: 'the meter against the fuel', kind: 'percent', limit: (limit) => `±${tied(`${limit}`, '%')}` },
  'coolant-no-hotter': { what: 'coolant in the band', kind: 'temperatureDifference', limit: (limit, f) => f.temperatureSpan(limit) },
  'not-louder': { what: 'the sound level', kind: 'percent', limit: (limit) => tied(`${limit}`, 'dB') },
};
const WITHIN: Partial<Record<AnswerCode, string>> = { gain: 'Within the limit', loss: 'Outside the limit' };

function evidenceText({ kind, answer, value, unit, limit, note, by }: AnswerSaid['evidence'], f: Formatter): string {
  const who = by ? `, entered by ${by}` : '';
  const figure =
    kind === 'no-fault-codes'
      ? value === 0
        ? 'No fault code was found'
        : `${value} fault ${value === 1 ? 'code was' : 'codes were'} found`
      : `${WITHIN[answer] ?? 'Entered'} of ${LIMIT_WORDS[kind]?.limit(limit, f) ?? limit}: ${unit === 'K' ? f.temperatureDifference(value) : tied(signed(value), unit)}`;
  return `${figure}${who}${note ? `: ${note}` : ''}.`;
}

const STILL_IN: Readonly<Record<string, string>> = {
  tune: 'the map',
  fuel: 'the fuel',
  ignition: 'the ignition',
  mixture: 'the mixture',
  manifoldPressure: 'the boost',
};

/** What else is in an estimate at the same charge air, in words. */
export const stillInText = (names: readonly string[]): string => listed(names.map((name) => STILL_IN[name] ?? name));

/** The sentences of answers, in parts. */
const ANSWER_PARTS: { readonly [Code in keyof AnswerSaid]: (values: AnswerSaid[Code], f: Formatter, say: SayInner) => AnswerParts } = {
  power: (said, f) => ({ ...powerLead(said, f), second: behind(said, f) }),
  'power-withheld': (said, f, say) => ({
    ...plainly(`No verdict on ${said.candidate}: ${because(said.because, say)}.`),
    second: [`Measured all the same: ${shown(said, f)}, ${START[said.of]}.`, ...behind(said, f)],
  }),
  'own-start-missing': ({ because: reason }, _, say) =>
    plainly(`It is asked with the part's own start, and that cannot be judged. ${sentence(say(reason))}`),
  'no-loss': (said, f) => {
    const { answer, candidate, reference, smallestPct } = said;
    const lead =
      { gain: `${candidate} does not lose`, loss: `${candidate} loses` }[answer as 'gain' | 'loss'] ??
      `Whether ${candidate} loses cannot be told`;
    const after = `, ${START[said.of]}; a loss of ${tied(`${smallestPct}`, '%')} would matter.`;
    return { before: `${lead} against ${reference}: `, figure: shown(said, f), after, second: behind(said, f) };
  },
  package: (said, f) => {
    const lead = powerLead(said, f);
    const still =
      said.stillIn.length > 0
        ? [`At the same charge air ${stillInText(said.stillIn)} ${said.stillIn.length > 1 ? 'are' : 'is'} still in it.`]
        : [];
    return { ...lead, before: `Part and tune together: ${lead.before}`, second: [...behind(said, f), ...still] };
  },
  'as-driven': ({ estimate, bandRpm, freeRpm, candidate }, f) => ({
    before: `Over the whole asked band, ${f.band(bandRpm)}, the closed throttle above ${f.rpm(freeRpm[1])} included, the car as driven changed by `,
    figure: f.interval('percent', estimate),
    after: ` with ${candidate}.`,
    second: [],
  }),
  'cooler-charge': ({ answer, estimateK, coldSide, smallestK, bandRpm }, f) => ({
    before: `${CHARGE_LEAD[answer]}: `,
    figure: f.interval('temperatureDifference', estimateK),
    after: `, mean in the band ${f.band(bandRpm)} above ${COLD_SIDE_WORDS[coldSide]}; ${f.temperatureSpan(smallestK)} would matter.`,
    second: [],
  }),
  'less-restriction': ({ answer, estimatePct, section, referenceDropPa, changePa, atFlowKgS, smallest, unit }, f) => {
    const where = section ? `the ${section}` : 'the part';
    const limit = unit === 'pct' ? tied(`${smallest}`, '%') : f.pressureDifference(1000 * smallest).replace('+', '');
    return {
      before: `${RESTRICTION_LEAD[answer](where)}: `,
      figure: f.interval('percent', estimatePct),
      after: `, that is ${f.interval('pressureDifference', changePa)} of ${f.pressure(referenceDropPa)} at ${f.massFlow(atFlowKgS)}; ${limit} would matter.`,
      second: [],
    };
  },
  limit: ({ kind, answer, estimate, limit }, f) => {
    const words = LIMIT_WORDS[kind]!;
    return {
      before: `${WITHIN[answer] ?? 'It cannot be told whether it is within the limit'} of ${words.limit(limit, f)}: ${words.what} `,
      figure: f.interval(words.kind, estimate),
      after: '.',
      second: [],
    };
  },
  evidence: (values, f) => plainly(evidenceText(values, f)),
  'no-evidence': ({ kind }) =>
    plainly(`Nothing is entered for “${QUESTION_LABELS[kind]}”: enter what was found where the question stands.`),
  'one-pull-each': ({ kind }) => plainly(`One pull of each cannot show it: ${LIMIT_WORDS[kind]?.what ?? QUESTION_LABELS[kind]}.`),
  'not-logged': ({ what }) => plainly(`${sentence(channelWord(what))} is not logged with both setups.`),
  'clock-unmatched': ({ what, files }) =>
    plainly(
      `${sentence(channelWord(what))} cannot be had: the ${files.length === 1 ? 'clock' : 'clocks'} of ${listed(files)} could not be matched.`,
    ),
  withheld: ({ because: reasons }, _, say) => plainly(`Withheld: ${because(reasons, say)}.`),
};

const CHARGE_LEAD: Readonly<Record<AnswerCode, string>> = {
  gain: 'The charge is cooler',
  loss: 'The charge is hotter',
  'no-difference': 'No difference that matters in the charge',
  'not-resolved': 'Whether the charge is cooler cannot be told from noise',
  withheld: 'Measured all the same',
};
const RESTRICTION_LEAD: Readonly<Record<AnswerCode, (where: string) => string>> = {
  gain: (where) => `Less pressure drop over ${where}`,
  loss: (where) => `More pressure drop over ${where}`,
  'no-difference': (where) => `No difference that matters in the pressure drop over ${where}`,
  'not-resolved': (where) => `Whether the pressure drop over ${where} differs cannot be told`,
  withheld: () => 'Measured all the same',
};

/** One thing said of an answer, in parts. */
export function answerParts<C extends keyof AnswerSaid>(code: C, values: AnswerSaid[C], f: Formatter, say: SayInner): AnswerParts {
  return ANSWER_PARTS[code](values, f, say);
}

/** Whether something said belongs to the sentences of answers. */
export const isAnswerCode = (code: string): code is keyof AnswerSaid => code in ANSWER_PARTS;

const joined = ({ before, figure, after, second }: AnswerParts) => [`${before}${figure}${after}`, ...second].join(' ');

/** The sentences of answers. */
export const ANSWER_WORDS = Object.fromEntries(
  (Object.keys(ANSWER_PARTS) as (keyof AnswerSaid)[]).map((code) => [
    code,
    (values: never, f: Formatter, say: SayInner) =>
      joined((ANSWER_PARTS[code] as (v: never, f: Formatter, say: SayInner) => AnswerParts)(values, f, say)),
  ]),
) as unknown as Writers<AnswerSaid>;
