import type { PullSaid } from '../said.js';
import type { Writers } from './writers.js';
import { CORRECTION_NAMES, FLAG_WORDS, channelWord } from './labels.js';

const START_WORDS = { intakeAirC: 'intake air', coolantC: 'coolant', oilC: 'oil' };
const percent = (value: number) => `${Math.round(value)}\u00a0%`;

/** What is said of a pull: its flags and its warnings. */
export const PULL_WORDS: Writers<PullSaid> = {
  'flag:throttle-closed': ({ underPct, sharePct, fromRpm }, f) =>
    `throttle under ${percent(underPct)} over ${percent(sharePct)} of the band, from ${f.rpm(fromRpm)}`,
  'flag:slip': ({ offPct, atRpm }, f) => `roller speed is ${f.percent(offPct)} off what it usually is near ${f.rpm(atRpm)}`,
  'flag:short': ({ fromRpm, toRpm, bandRpm }, f) => `covers ${f.band([fromRpm, toRpm])} of the band ${f.band(bandRpm)}`,
  'flag:boost-low': ({ underPct }) => `manifold pressure ${underPct.toFixed(1)}\u00a0% under the setup's usual`,
  'flag:lean': ({ lambda, sharePct }) =>
    `lambda above ${lambda.toFixed(2)} over ${percent(sharePct)} of the band: stop and find the reason`,
  'flag:timing-pulled': ({ degrees, sharePct }) => `spark pulled by more than ${degrees}° over ${percent(sharePct)} of the band`,
  'flag:spike': ({ columns }) =>
    columns.map(({ name, file, samples }) => `${name} (${file}): ${samples} ${samples === 1 ? 'sample' : 'samples'} masked`).join('; '),
  'flag:air-meter-implausible': ({ offPct }, f) => `air mass flow is ${f.percent(offPct, 0)} from what this power needs`,
  'flag:started-hot': ({ apartK }, f) => `started ${f.temperatureSpan(apartK)} hotter than the day's usual`,
  'flag:started-cold': ({ apartK }, f) => `started ${f.temperatureSpan(apartK)} cooler than the day's usual`,
  'flag:typed': ({ corrected }) =>
    corrected && corrected !== 'NONE'
      ? `figures read off a screen or sheet, corrected by ${CORRECTION_NAMES[corrected] ?? corrected} there`
      : 'figures read off a screen or sheet',
  'flag-on-every-pull': ({ flag, setup }) => `“${FLAG_WORDS[flag]}” on every pull of ${setup}: said of the setup, not of the pull.`,
  'clock-not-matched': ({ file, first }) =>
    `The clock of ${file} could not be matched with ${first}: no speed, no step and no trigger in common. Nothing is judged from it.`,
  'corrected-without-weather': ({ quantity }) =>
    `${channelWord(quantity)} is corrected in the file, but the weather is missing: it cannot be brought back to uncorrected.`,
  'gauge-without-weather': ({ quantity }) =>
    `${channelWord(quantity)} is a gauge pressure, and the barometer is missing: the absolute one cannot be had.`,
  'boost-not-logged': () => 'Manifold pressure is not logged: a change of boost would go unseen.',
  'start-apart': ({ what, loggedC, statedC }, f) =>
    `Start ${START_WORDS[what]}: the log says ${f.temperature(loggedC)}, the sheet ${f.temperature(statedC)}; the log is used.`,
  'ambient-apart': ({ loggedC, statedC }, f) =>
    `Ambient: the log says ${f.temperature(loggedC)}, the sheet ${f.temperature(statedC)}; the log is used.`,
  'pressure-apart': ({ loggedPa, statedPa }, f) =>
    `Ambient: the log says ${f.pressure(loggedPa)}, the sheet ${f.pressure(statedPa)}; the log is used.`,
  'humidity-assumed': ({ percent: humidity }) => `No humidity is given: ${percent(humidity)} is assumed.`,
  'typed-correction-unknown': () => 'Nobody said whether the typed figures are corrected already: they are taken as uncorrected.',
};
