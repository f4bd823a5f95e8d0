import type { CloudSaid } from '../said.js';
import { CONDITION_NOT_GOOD, STATE_WORDS, channelWord } from './labels.js';
import { FLAG_WORDS } from './checks/index.js';
import { listed, signed } from '../format/values.js';
import type { Writers } from './writers.js';

/** What clouds an answer, each a sentence without its capital and full stop. */
export const CLOUD_WORDS: Writers<CloudSaid> = {
  'state-changed': ({ what, changes, ask }) =>
    `${STATE_WORDS[what]} differs: ${changes.map(({ from, to }) => `${from} → ${to}`).join(', ')}${ask === 'mixture' ? '; check the mixture at the tailpipe' : ''}`,
  'gear-apart': ({ reference, candidate, differencePct }, f) =>
    reference !== null && candidate !== null
      ? `the setups were driven in gears ${reference} and ${candidate}`
      : `the setups were driven in different gears, or the speed is read otherwise: at one engine speed it differs by ${f.percent(differencePct!)}`,
  'sensor-moved': ({ quantities }) => `the sensor of ${listed(quantities.map(channelWord))} sits elsewhere`,
  'several-parts': ({ removed, added }) =>
    `several parts differ (${listed([...removed.map((part) => `− ${part}`), ...added.map((part) => `+ ${part}`)])}): they are judged together`,
  'boost-changed': ({ differencePct }, f) => `manifold pressure differs by ${f.percent(differencePct)} in the band`,
  'timing-changed': ({ differenceDeg, follows }) =>
    `ignition differs by ${signed(differenceDeg)}° in the band${follows ? ', as the charge temperature that the part changed explains' : ''}`,
  'fuelling-changed': ({ differenceLambda }) => `lambda differs by ${signed(differenceLambda, 3)} in the band`,
  'air-meter-disagrees': ({ differencePct }, f) =>
    `the air meter reads ${f.percent(differencePct)} against the fuel: its witness is not used, and a drop at its flow is that much less sure`,
  'coolant-apart': ({ differenceK }, f) => `coolant at the start differs by ${f.temperatureDifference(differenceK)}`,
  'weather-apart': ({ reference, candidate }) =>
    `the weather factors of the setups are ${Math.abs(reference - candidate).toFixed(3)} apart`,
  'weather-outside': ({ factor, low, high }) => `a weather factor of ${factor.toFixed(3)} lies outside ${low} to ${high}`,
  'order-confounded': () => 'every pull of one setup came before every pull of the other: drift cannot be told from the part',
  'single-pull': ({ setups }) => `only one used pull of ${listed(setups)}`,
  'different-day': () => 'the setups did not run on the same days',
  'different-cell': ({ cells }) => `the setups ran in different cells: ${listed(cells)}`,
  'condition-not-met': ({ items, stands }) => {
    const what = listed(items.map((item) => CONDITION_NOT_GOOD[item] ?? item));
    return stands ? `before the first pull ${what}: a poor reference flatters the new part` : `before the first pull ${what}`;
  },
  'flag-of-setups': ({ flag, setups }) => `${FLAG_WORDS[flag]} on every pull of ${listed(setups)}`,
  'throttle-closed-alike': () => 'the engine control closes the throttle in both setups alike',
  'throttle-closed-above': ({ setup, aboveRpm }, f) => `above ${f.rpm(aboveRpm)} the engine control closes the throttle with ${setup}`,
};
