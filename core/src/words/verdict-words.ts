import type { Cause, ChannelDifference, ChoiceChange, Contribution, Habit, Hint, Witness } from '@gezeit/contract';
import type { Formatter } from '../format/formatter.js';
import { channelWord, CORRECTION_NAMES, METRIC_WORDS } from './labels.js';
import { plain, signed, tied } from '../format/values.js';

/** Causes of a difference, and what each is. */
export const CAUSE_WORDS: Readonly<Record<Cause, { label: string; what: string }>> = {
  weather: { label: 'weather', what: 'What the weather correction took out.' },
  heatState: { label: 'heat at the start', what: 'The intake was hotter or cooler when the pulls began.' },
  drift: { label: 'drift', what: 'Car and dyno wandered over the day.' },
  learning: { label: 'learning', what: 'The engine control gave back power over the first pulls.' },
  oil: { label: 'oil', what: 'The oil was hotter or cooler when the pulls began.' },
  weighting: {
    label: 'weighing',
    what: 'Pulls do not count alike: scatter, pulls that may be bad, and what is believed beforehand. It is no cause.',
  },
  chargeTemperature: { label: 'charge temperature', what: 'The charge was hotter or cooler in the pull, beyond what the start explains.' },
  manifoldPressure: { label: 'manifold pressure', what: 'Boost was higher or lower than it is held to.' },
  breathing: { label: 'breathing', what: 'More or less air at the same charge air: restriction, tract, volumetric efficiency.' },
  ignition: { label: 'ignition', what: 'More or less advance, beyond what learning and the start explain.' },
  mixture: { label: 'mixture', what: 'Richer or leaner.' },
  unexplained: { label: 'unexplained', what: 'What is left: not logged, or not known.' },
};

/** What habits report. */
export const HABIT_WORDS: Readonly<Record<Habit['code'], string>> = {
  best: 'best against best',
  mean: 'mean against mean',
  first: 'first against first',
  last: 'last against last',
};

const LEVELLING: readonly Cause[] = ['heatState', 'drift', 'learning', 'oil', 'weighting'];
/** Rows smaller than this explain nothing worth a sentence, per cent. */
const WORTH_A_SENTENCE_PCT = 0.2;

/** The one reason why the habits differ from what is levelled: the largest of what was taken out. */
export function whyHabitsDiffer(contributions: readonly Contribution[], f: Formatter): string {
  const end = contributions.findIndex(({ cause }) => cause === 'chargeTemperature');
  const rows = contributions.slice(0, end < 0 ? undefined : end).filter(({ cause, pct }) => LEVELLING.includes(cause) && pct !== null);
  const largest = rows.sort((a, b) => Math.abs(b.pct!) - Math.abs(a.pct!))[0];
  if (!largest || Math.abs(largest.pct!) < WORTH_A_SENTENCE_PCT)
    return 'Levelling took nothing out that is worth naming: the habits differ by scatter alone.';
  if (largest.cause === 'weighting')
    return `What sets them apart is how the pulls are weighed (${f.percent(largest.pct!)}): scatter, and pulls that may be bad.`;
  return `What sets them apart is above all ${CAUSE_WORDS[largest.cause].label}: ${f.percent(largest.pct!)} of the mean against mean.`;
}

/** What the shape of a difference fits. */
export const HINT_WORDS: Readonly<Record<Hint, string>> = {
  restriction: 'It grows with engine speed, as where a restriction was removed.',
  spool: 'It stands at the low end, as where the turbine spools earlier.',
  flap: 'It stands at the low end, as with a flap or a longer tract.',
  'tract-tuning': 'It is a bump of a few hundred rpm, as of the tract’s own tuning, or of noise.',
  'charge-density': 'It is even over the band and the charge is cooler, as where the charge is denser.',
  downstream: 'Power falls while boost holds: look downstream, at the exhaust side, before the part is blamed.',
};

/** A witness in words. */
export function witnessLabel(code: string): string {
  if (code === 'fuel') return 'air by injector time and mixture';
  if (code === 'ignitionAdvance') return 'ignition allowed, learning and start taken out';
  return code.startsWith('pressureDrop') ? `${channelWord(code)}, at an equal flow` : channelWord(code);
}
export const AGREES_WORDS: Readonly<Record<Witness['agrees'], string>> = {
  agrees: 'agrees with power',
  apart: 'does not agree with power',
  'cannot-tell': 'cannot tell',
};

/** A difference of a channel with its unit; ratios, temperatures and pressures in the units that are chosen. */
export function channelFigure(kind: ChannelDifference['kind'], value: number, f: Formatter): string {
  switch (kind) {
    case 'percent':
      return f.percent(value);
    case 'temperatureDifference':
      return f.temperatureDifference(value);
    case 'pressureDifference':
      return f.pressureDifference(value);
    case 'degrees':
      return tied(signed(value), '°');
    case 'lambda':
      return signed(value, 3);
    default:
      return signed(value);
  }
}

/** Something chosen otherwise, in a few words. */
export function choiceText(change: ChoiceChange, f: Formatter): string {
  switch (change.what) {
    case 'correction':
      return change.to === 'C9' ? 'estimate for boosted engines' : (CORRECTION_NAMES[change.to] ?? change.to);
    case 'temperatureExponent':
      return `weather, temperature to the power ${change.to}`;
    case 'metric':
      return METRIC_WORDS[change.to];
    case 'bandLow':
      return `band from ${f.rpm(change.to)}`;
    case 'bandHigh':
      return `band to ${f.rpm(change.to)}`;
    case 'pull':
      return `without pull ${change.to}`;
    case 'drift':
      return 'no drift allowed for';
    case 'learning':
      return 'no learning allowed for';
    case 'oil':
      return 'oil not taken out';
    case 'powerPerKelvin':
      return `power per kelvin at the start: ${change.to === 0 ? '0' : tied(plain(100 * change.to, 2), '%')}`;
    case 'smoothing':
      return `peaks over ${change.to} rpm`;
  }
}

/** What an answer by the interval alone reads as. */
export const READS_AS: Readonly<Record<'gain' | 'loss' | 'no-difference' | 'not-resolved', string>> = {
  gain: 'gain',
  loss: 'loss',
  'no-difference': 'no difference',
  'not-resolved': 'cannot be told',
};
