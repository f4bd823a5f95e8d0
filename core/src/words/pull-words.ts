import type { PullSaid } from '../said.js';
import type { Writers } from './writers.js';
import { calibrationText } from './calibration-text.js';
import { CHECK_WORDS, FLAG_WORDS } from './checks/index.js';
import { quantityWords } from '../channels/quantity-words.js';
import { channelReading } from './channel-reading.js';
import { channelWord } from './labels.js';
import { sentence, whole } from '../format/values.js';

const START_WORDS = { intakeAirC: 'intake air', coolantC: 'coolant', oilC: 'oil' };

type FlagCode = keyof PullSaid & `flag:${string}`;

/** What the checks found. */
const FLAG_DETAILS = Object.fromEntries(
  Object.entries(CHECK_WORDS).map(([flag, { detail }]) => [`flag:${flag}`, detail]),
) as unknown as Writers<Pick<PullSaid, FlagCode>>;

/** What is said of a pull: its flags and its warnings. */
export const PULL_WORDS: Writers<PullSaid> = {
  ...FLAG_DETAILS,
  'flag-on-every-pull': ({ flag, setup }) => `“${FLAG_WORDS[flag]}” on every pull of ${setup}: said of the setup, not of the pull.`,
  'clock-not-matched': ({ file, first }) =>
    `The clock of ${file} could not be matched with ${first}: no speed, no step and no trigger in common. Nothing is judged from it.`,
  'corrected-without-weather': ({ quantity }) =>
    `${channelWord(quantity)} is corrected in the file, but the weather is missing: it cannot be brought back to uncorrected.`,
  'gauge-without-weather': ({ quantity }) =>
    `${channelWord(quantity)} is a gauge pressure, and the barometer is missing: the absolute one cannot be had.`,
  'channel-put-right': ({ calibration }) => `${sentence(calibrationText(calibration))}.`,
  'boost-not-logged': () => 'Manifold pressure is not logged: a change of boost would go unseen.',
  'start-apart': ({ what, loggedC, statedC }, f) =>
    `Start ${START_WORDS[what]}: the log says ${f.temperature(loggedC)}, the sheet ${f.temperature(statedC)}; the log is used.`,
  'air-impossible': ({ quantity, value, logged }, f) =>
    `${sentence(quantityWords(quantity))}: the ${logged ? 'log' : 'sheet'} says ${channelReading(quantity, value, f)}, which no weather is. It is not used: check its unit.`,
  'ambient-apart': ({ loggedC, statedC }, f) =>
    `Ambient: the log says ${f.temperature(loggedC)}, the sheet ${f.temperature(statedC)}; the log is used.`,
  'pressure-apart': ({ loggedPa, statedPa }, f) =>
    `Ambient: the log says ${f.pressure(loggedPa)}, the sheet ${f.pressure(statedPa)}; the log is used.`,
  'humidity-assumed': ({ percent: humidity }) => `No humidity is given: ${whole(humidity)} is assumed.`,
  'engine-speed-impossible': ({ file, count, mostRpm }, f) =>
    `${file}: ${count === 1 ? 'one reading' : `${count} readings`} of engine speed beyond ${f.rpm(mostRpm)} within the sweep, which no engine reaches: left out as ${count === 1 ? 'a blank' : 'blanks'}.`,
  'typed-correction-unknown': () => 'Nobody said whether the typed figures are corrected already: they are taken as uncorrected.',
};
