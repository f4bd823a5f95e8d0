import type { Metric } from '@gezeit/contract';
import type { ReasonSaid } from '../said.js';
import { calibrationText } from './calibration-text.js';
import { METRIC_WORDS, TERM_WORDS, channelWord } from './labels.js';
import { listed, sentence, signed } from '../format/values.js';
import type { Writer, Writers } from './writers.js';

/** Why something cannot be had, and notes beside an answer: each as it stands in a sentence, without a full stop. */
export const REASON_CLAUSES: Writers<ReasonSaid> = {
  'no-used-pull': ({ setups }) => `There is no used pull of ${listed(setups)} that gives power`,
  'shiftable-gate': ({ gate }) => `The gate “${gate}” holds a temperature that the part can shift`,
  'rests-differ': ({ reference, candidate, referenceMin, candidateMin }) =>
    `The rests before the pulls differ: ${referenceMin.toFixed(1)}\u00a0min with ${reference}, ${candidateMin.toFixed(1)}\u00a0min with ${candidate}`,
  'coolant-unknown': () => 'Coolant at the start is not known for every pull',
  'coolant-differs': ({ apartK }, f) => `Coolant at the start differs by ${f.temperatureSpan(apartK)}`,
  'setups-not-mixed': () => 'Every pull of one setup came before every pull of the other',
  'no-charge-temperature': () => 'The charge temperature in the pull is not logged with every pull',
  'too-little-band': ({ sharePct, needPct }) =>
    `only ${Math.round(sharePct)}\u00a0% of the asked band could be compared (${Math.round(needPct)}\u00a0% are needed)`,
  'not-with-this-cell': ({ pulls, smallestPct }) =>
    `Not with this cell: even ${pulls} further pulls would not resolve ${signed(smallestPct)}\u00a0%`,
  'term-left-out': ({ what, missing, of }) =>
    `${sentence(channelWord(what))} is missing on ${missing} of ${of} pulls: its term is left out`,
  'start-sensor-moved': () => 'The sensor of intake air was moved: the term of the start temperature is left out',
  'stated-once': ({ keys }) => `Stated for one setup only, so unknown: ${listed(keys)}`,
  'band-cut': ({ bandRpm, askedRpm, cappedSetup, shortSetups }, f) => {
    const why = cappedSetup
      ? `the engine control closes the throttle with ${cappedSetup}`
      : `the pulls of ${listed(shortSetups)} stop short`;
    return `Compared from ${f.band(bandRpm)} instead of ${f.band(askedRpm)}: ${why}`;
  },
  'assumptions-changed': ({ changed }) =>
    `Assumptions changed by hand: ${changed.map(({ name, now, usual, per }) => `${name} ${now} instead of ${usual}${per ? ` ${per}` : ''}`).join('; ')}`,
  'draft-unanswered': ({ left, first }) =>
    `Nothing is compared: ${left} ${left === 1 ? 'thing is' : 'things are'} left to say, the first of them ${first}`,
  'no-reference': () => 'No setup is marked as the reference: nothing is compared',
  'spark-factor-on-diesel': () => 'The spark-ignition factor is used on a compression-ignition engine: its own needs the fuel flow',
  'pulls-without-metric': ({ pulls, metric }) =>
    `${listed(pulls)} ${pulls.length === 1 ? 'gives' : 'give'} no ${METRIC_WORDS[metric as Metric] ?? metric}: left out of that question`,
  'changed-after-results': ({ what, question }) =>
    `Changed after results had been seen: ${TERM_WORDS[what] ?? what}${question ? ` of question ${question}` : ''}`,
  'pulls-amended': ({ pulls }) => `Corrected after they were driven: ${listed(pulls)}`,
  'calibration-put-right': ({ calibration, pulls }) => `${sentence(calibrationText(calibration))}: ${listed(pulls)}`,
  'open-at-the-end': ({ items, reason }) =>
    `The day was closed with ${listed(items.map((item) => `“${item}”`))} open${reason ? ` (${reason})` : ''}`,
  'cause-not-logged': ({ what }) => `${sentence(channelWord(what))} is not logged with every pull`,
  'cause-not-corrected': () => 'No weather correction is used',
  'cause-own-doing': () => 'Nothing holds it: it is the part’s own doing, under breathing',
  'cause-meter-changed': () => 'The air meter or its housing differs between the setups: its readings cannot be compared',
  'cause-meter-disagrees': () => 'The air meter disagrees with the fuel: its witness is not used',
  'driven-anyway': ({ pulls }) => `Driven although a gate was not met: ${listed(pulls)}`,
};

/** The same standing by themselves: sentences. */
export const REASON_WORDS = Object.fromEntries(
  Object.entries<Writer>(REASON_CLAUSES).map(([code, write]): [string, Writer] => [code, (...given) => `${sentence(write(...given))}.`]),
) as unknown as Writers<ReasonSaid>;
