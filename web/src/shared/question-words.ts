import { correctionSchema, type BoostControl, type Metric, type QuestionKind } from '@gezeit/contract';
import { CORRECTION_NAMES } from '@gezeit/core';

export const METRIC_WORDS: Record<Metric, string> = {
  meanPower: 'mean power over the band',
  peakPower: 'peak power in the band',
  meanTorque: 'mean torque over the band',
  peakTorque: 'peak torque in the band',
};
/** As a choice: the names that stand everywhere else, in the order in which they are offered. */
export const CORRECTION_WORDS: Readonly<Record<string, string>> = Object.fromEntries(
  correctionSchema.options.map((correction) => [correction, correction === 'NONE' ? 'none: uncorrected' : CORRECTION_NAMES[correction]!]),
);
export const KIND_WORDS: Record<QuestionKind, string> = {
  'power-gain': 'Is there a gain in power?',
  'power-no-loss': 'Does it lose nothing?',
  'package-gain': 'Does the package, part and tune together, gain?',
  'cooler-charge': 'Is the charge cooler?',
  'less-restriction': 'Is there less restriction?',
  'no-fault-codes': 'Are there no fault codes?',
  'meter-unchanged': 'Does the air meter read as before?',
  'mixture-within': 'Does the mixture stay within limits?',
  'coolant-no-hotter': 'Does the coolant get no hotter?',
  'not-louder': 'Is it no louder?',
  'quicker-response': 'Does it respond quicker?',
  'fades-less': 'Does it fade less?',
};
/** What each kind means, and how its limit is meant. */
export const KIND_WHY: Record<QuestionKind, string> = {
  'power-gain': 'The same tune on both setups: what the part does by itself. A gain below the limit nobody would care for.',
  'power-no-loss': 'A quieter duct or a filter that holds more must not cost power: that is shown, not assumed from a missing difference.',
  'package-gain': 'Each setup with its own tune: what the customer’s package does. Boost and tune belong to it.',
  'cooler-charge': 'Mean charge temperature in the band above the cooling air.',
  'less-restriction':
    'Change of the pressure drop over a section or the tract at the reference’s own flow, from logged drops and air flow.',
  'no-fault-codes': 'Read the codes after the day and after a drive; the limit has no unit.',
  'meter-unchanged': 'Air meter against fuel: a shift above the limit makes “more air” worthless.',
  'mixture-within': 'Lambda in the band against the reference.',
  'coolant-no-hotter': 'Coolant at the end of the pull against the reference.',
  'not-louder': 'Measured at the same place and speed.',
  'quicker-response':
    'From full throttle until boost or torque is there, or the time between two speeds: pulls that begin at the same speed.',
  'fades-less': 'Power or charge temperature at the n-th pull of a series with short rests, each series from an equal start.',
};
export const CONTROL_WORDS: Record<BoostControl, string> = {
  absolute: 'holds an absolute pressure',
  gauge: 'holds a gauge pressure',
  mechanical: 'mechanical: follows the engine',
  none: 'none',
};
export const ASPIRATION_WORDS = { na: 'naturally aspirated', turbo: 'turbo', supercharged: 'supercharged' } as const;
export const QUESTION_UNITS = { pct: '%', K: 'K', kPa: 'kPa', lambda: 'lambda', dB: 'dB', s: 's', rpm: 'rpm' } as const;
export const STAGE_WORDS = {
  'printed-prototype': 'printed prototype',
  prototype: 'prototype',
  'pre-production': 'pre-production',
  production: 'production',
  stock: 'stock part',
} as const;
