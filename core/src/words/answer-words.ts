import type { AnswerCode, AnswerSaid } from '../said.js';
import { channelReading } from './channel-reading.js';
import { plainly, type AnswerParts } from './answer-parts.js';
import type { Formatter } from '../format/formatter.js';
import { channelWord, COLD_SIDE_WORDS } from './labels.js';
import { leaningText } from './leaning-words.js';
import { powerLead, powerTerms, shownEstimate, START_TERMS } from './power-sentence.js';
import { QUESTION_WORDS } from './questions/index.js';
import { listed, sentence, signed, tied } from '../format/values.js';
import type { SayInner, Writers } from './writers.js';

const because = (reasons: readonly { code: string; values: unknown }[], say: SayInner) => reasons.map(say).join('; ');

const WITHIN: Partial<Record<AnswerCode, string>> = { gain: 'Within the limit', loss: 'Outside the limit' };

function evidenceText({ kind, answer, value, unit, limit, note, by }: AnswerSaid['evidence'], f: Formatter): string {
  const words = QUESTION_WORDS[kind];
  const who = by ? `, entered by ${by}` : '';
  const entered = unit === 'K' ? f.temperatureDifference(value) : tied(signed(value), unit);
  const figure = words.found?.(value) ?? `${WITHIN[answer] ?? 'Entered'} of ${words.limit?.text(limit, f) ?? limit}: ${entered}`;
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
const stillInText = (names: readonly string[]): string => listed(names.map((name) => STILL_IN[name] ?? name));

/** The sentences of answers, in parts. */
const ANSWER_PARTS: { readonly [Code in keyof AnswerSaid]: (values: AnswerSaid[Code], f: Formatter, say: SayInner) => AnswerParts } = {
  power: (said, f) => ({ ...powerLead(said, f), second: powerTerms(said, f) }),
  'power-withheld': (said, f, say) => ({
    ...plainly(`No verdict on ${said.candidate}: ${because(said.because, say)}.`),
    second: [`Measured all the same: ${shownEstimate(said, f)}, ${START_TERMS[said.of]}.`, ...powerTerms(said, f)],
  }),
  'own-start-missing': ({ because: reason }, _, say) =>
    plainly(`It is asked with the part's own start, and that cannot be judged. ${sentence(say(reason))}.`),
  'no-loss': (said, f) => {
    const { answer, candidate, reference, smallestPct } = said;
    const lead =
      { gain: `${candidate} does not lose`, loss: `${candidate} loses` }[answer as 'gain' | 'loss'] ??
      `Whether ${candidate} loses cannot be told`;
    const after = `, ${START_TERMS[said.of]}; a loss of ${tied(`${smallestPct}`, '%')} would matter.`;
    return { before: `${lead} against ${reference}: `, figure: shownEstimate(said, f), after, second: powerTerms(said, f) };
  },
  package: (said, f) => {
    const lead = powerLead(said, f);
    const still =
      said.stillIn.length > 0
        ? [`At the same charge air ${stillInText(said.stillIn)} ${said.stillIn.length > 1 ? 'are' : 'is'} still in it.`]
        : [];
    return { ...lead, before: `Part and tune together: ${lead.before}`, second: [...powerTerms(said, f), ...still] };
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
    const limit = unit === 'pct' ? tied(`${smallest}`, '%') : f.level('pressureDifference', 1000 * smallest);
    return {
      before: `${RESTRICTION_LEAD[answer](where)}: `,
      figure: f.interval('percent', estimatePct),
      after: `, that is ${f.interval('pressureDifference', changePa)} of ${f.pressure(referenceDropPa)} at ${f.massFlow(atFlowKgS)}; ${limit} would matter.`,
      second: [],
    };
  },
  response: ({ answer, estimate, unit, of, level, sharePct, between, referenceValue, smallest }, f) => {
    const kind = unit === 's' ? 'seconds' : 'rpm';
    return {
      before: `${RESPONSE_LEAD[answer]}: `,
      figure: f.interval(kind, estimate),
      after: `, ${responseWhat(of, level, sharePct, between, unit, f)}, which takes the reference ${f.level(kind, referenceValue)}; ${f.level(kind, smallest)} would matter.`,
      second: [],
    };
  },
  'response-not-reached': ({ what }) =>
    plainly(`${sentence(channelWord(what))} is not logged with both setups from below the level that is asked about, or never gets there.`),
  fades: ({ answer, estimate, unit, nth, smallest, reference, candidate, referenceChange, candidateChange, series }, f) => {
    const kind = unit === 'K' ? 'temperatureDifference' : 'percent';
    return {
      before: `${FADE_LEAD[answer]}: `,
      figure: f.interval(kind, estimate),
      after: ` in ${unit === 'K' ? 'charge temperature' : 'power'} from the first to the ${ordinal(nth)} pull with short rests, from an equal start; ${f.figure(kind, smallest).replace('+', '')} would matter.`,
      second: [
        `${reference} changes by ${f.figure(kind, referenceChange)} (${countedSeries(series.reference)}), ${candidate} by ${f.figure(kind, candidateChange)} (${countedSeries(series.candidate)}).`,
      ],
    };
  },
  'no-series': ({ least, restMin }) =>
    plainly(
      `No series of at least ${least} pulls with rests of at most ${restMin} minutes was driven with both setups: drive them one after the other from a cool start.`,
    ),
  limit: ({ kind, answer, estimate, limit }, f) => {
    const words = QUESTION_WORDS[kind].limit!;
    return {
      before: `${WITHIN[answer] ?? 'It cannot be told whether it is within the limit'} of ${words.text(limit, f)}: ${words.what} `,
      figure: f.interval(words.kind, estimate),
      after: '.',
      second: [],
    };
  },
  evidence: (values, f) => plainly(evidenceText(values, f)),
  'no-evidence': ({ kind }) =>
    plainly(`Nothing is entered for “${QUESTION_WORDS[kind].label}”: enter what was found where the question stands.`),
  'one-pull-each': ({ kind }) =>
    plainly(`One pull of each cannot show it: ${QUESTION_WORDS[kind].limit?.what ?? QUESTION_WORDS[kind].label}.`),
  'no-cold-side': () =>
    plainly(
      'The charge is compared above its cold side, and that is not known with both setups: give the weather of the pulls, or log the air around or the water into the cooler.',
    ),
  'not-logged': ({ what }) => plainly(`${sentence(channelWord(what))} is not logged with both setups.`),
  'clock-unmatched': ({ what, files }) =>
    plainly(
      `${sentence(channelWord(what))} cannot be had: the ${files.length === 1 ? 'clock' : 'clocks'} of ${listed(files)} could not be matched.`,
    ),
  withheld: ({ because: reasons }, _, say) => plainly(`Withheld: ${because(reasons, say)}.`),
  'outside-band': ({ ranges, bandRpm }, f) => {
    const [first, ...others] = ranges.map(({ fromRpm, toRpm, isLoss }) => {
      const where =
        toRpm <= bandRpm[0] ? `below ${f.rpm(toRpm)}, from ${f.rpm(fromRpm)},` : `above ${f.rpm(fromRpm)}, up to ${f.rpm(toRpm)},`;
      return `${where} it ${isLoss ? 'loses' : 'gains'}`;
    });
    return plainly(`Outside the band: ${listed([first!, ...others])}.`);
  },
  'leans-on': ({ leansOn }, f) => plainly(leaningText(leansOn, f)),
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

const RESPONSE_LEAD: Readonly<Record<AnswerCode, string>> = {
  gain: 'It responds quicker',
  loss: 'It responds slower',
  'no-difference': 'No difference that matters in the response',
  'not-resolved': 'Whether it responds quicker cannot be told',
  withheld: 'Measured all the same',
};
const FADE_LEAD: Readonly<Record<AnswerCode, string>> = {
  gain: 'It fades less',
  loss: 'It fades more',
  'no-difference': 'No difference that matters in the fade',
  'not-resolved': 'Whether it fades less cannot be told',
  withheld: 'Measured all the same',
};
const countedSeries = (count: number) => (count === 1 ? 'one series' : `${count} series`);
const ordinal = (n: number) => `${n}${{ 1: 'st', 2: 'nd', 3: 'rd' }[n % 100 > 10 && n % 100 < 14 ? 0 : n % 10] ?? 'th'}`;

function responseWhat(
  of: AnswerSaid['response']['of'],
  level: number | null,
  sharePct: number,
  between: readonly [number, number] | null,
  unit: 's' | 'rpm',
  f: Formatter,
): string {
  if (between) {
    const kmh = (value: number) => Math.round(value * 3.6);
    return of === 'engineSpeed'
      ? `from ${f.rpm(between[0])} to ${f.rpm(between[1])}`
      : `from ${kmh(between[0])} to ${tied(`${kmh(between[1])}`, 'km/h')}`;
  }
  const reached = of === 'boost' ? `boost at ${f.pressure(level!)} absolute` : `torque at ${channelReading('torque', level!, f)}`;
  const from = unit === 's' ? 'from full throttle until' : 'at the engine speed of';
  return `${from} ${reached} (${Math.round(sharePct)}${'\u00a0'}% of the reference’s own)`;
}

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
