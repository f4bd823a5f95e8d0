import type { Metric } from '@gezeit/contract';
import type { ColdSide } from '../compare/charge-cooling.js';
import type { StateName } from '../judge/confound-rules.js';
import type { MissingReason } from '../compare/analysed-pull.js';

/** What is compared, as a sentence names it. */
export const METRIC_WORDS: Readonly<Record<Metric, string>> = {
  meanPower: 'mean power',
  peakPower: 'peak power',
  meanTorque: 'mean torque',
  peakTorque: 'peak torque',
};

/** Weather corrections as every sentence, chart and list names them. */
export const CORRECTION_NAMES: Readonly<Record<string, string>> = {
  NONE: 'uncorrected',
  SAE_J1349: 'SAE J1349',
  STD_J607: 'STD J607',
  DIN_70020: 'DIN 70020',
  ISO_1585: 'ISO 1585',
};

export const STATE_WORDS: Readonly<Record<StateName, string>> = {
  tune: 'the tune',
  fuel: 'the fuel',
  gear: 'the gear',
  driveMode: 'the drive mode',
  tyres: 'the tyres',
  bonnet: 'the bonnet',
  fan: 'the fan',
  boostTarget: 'the boost target',
  learned: 'what the engine control has learned',
  airMeter: 'the air meter housing',
};

/** Items of the condition check that were not good. */
export const CONDITION_NOT_GOOD: Readonly<Record<string, string>> = {
  filter: 'the reference filter was not clean',
  box: 'the box was not free of debris',
  leaks: 'the intake leaked',
  clamps: 'clamps or hose joints were not tight',
  codes: 'there were fault codes',
  oil: 'the oil was not in order',
  plugs: 'the plugs were not in order',
  tyres: 'the tyres were not in order',
};

export const COLD_SIDE_WORDS: Readonly<Record<ColdSide, string>> = {
  coolantIn: 'the coolant into the cooler',
  coolingAir: 'the cooling air before the core',
  ambient: 'the ambient air',
};

/** Quantities as sentences name them. */
const CHANNEL_WORDS: Readonly<Record<string, string>> = {
  intakeAirTemperature: 'intake air at the start',
  oilTemperature: 'oil at the start',
  chargeTemperature: 'charge temperature',
  ignitionAdvance: 'ignition',
  manifoldPressure: 'manifold pressure',
  boostPressure: 'boost',
  airMassFlow: 'air mass flow',
  coolantTemperature: 'coolant',
  pressureDrop: 'pressure drop',
  power: 'power',
  torque: 'torque',
  lambda: 'mixture',
  weather: 'weather',
};

/** A channel in words; pressure drops name their section. */
export function channelWord(key: string): string {
  const [quantity, section] = key.split('/');
  const word = CHANNEL_WORDS[quantity!] ?? quantity!.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();
  return section ? `${word} over the ${section}` : word;
}

/** Why a pull is left out, in words; a text by hand is its own. */
export const LEFT_OUT_WORDS: Readonly<Record<MissingReason | 'aborted' | 'conditioning' | 'tuning' | 'steady' | 'drive', string>> = {
  conditioning: 'conditioning',
  tuning: 'tuning pull',
  steady: 'steady running',
  drive: 'drive',
  aborted: 'aborted',
  'band-not-covered': 'it covers nothing of the band',
  'no-power': 'no power or torque in its logs',
  'clock-not-matched': 'its power is in a file whose clock could not be matched',
  'typed-not-enough': 'the typed figures do not give what is compared',
  'typed-not-uncorrected': 'its typed figures are corrected, and without weather they cannot be brought back',
  'no-sweep': 'no full-throttle sweep in its logs',
  'no-logs': 'no logs',
  'no-weather': 'no weather to correct with',
};

/** Terms of a question or a programme that can be changed. */
export const TERM_WORDS: Readonly<Record<string, string>> = {
  metric: 'the metric',
  bandRpm: 'the band',
  smallestGainPct: 'the smallest change that matters',
  smallest: 'the limit',
  unit: 'the unit of the limit',
  start: 'the start that it is asked from',
  correction: 'the correction',
  setups: 'the setups',
};

/** What of a pull can be corrected afterwards. */
export const AMENDED_WORDS: Readonly<Record<string, string>> = {
  weather: 'weather',
  setup: 'setup',
  kind: 'kind',
  aborted: 'whether it was aborted',
  figures: 'figures',
};
