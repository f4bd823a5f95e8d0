import type { ChannelDifference } from '@gezeit/contract';
import type { Show } from '../../shared/units/show.js';

/** In which unit a channel's difference is drawn. */
export function besideUnit({ kind }: ChannelDifference, show: Show): string {
  return {
    percent: '%',
    temperatureDifference: show.differenceUnit,
    pressureDifference: show.units.pressure,
    degrees: '°',
    lambda: 'λ',
    number: '',
  }[kind];
}

/** How a channel's difference is brought into that unit from the one that is kept inside. */
export function besideValue({ kind }: ChannelDifference, show: Show): (value: number) => number {
  if (kind === 'temperatureDifference') return (value) => show.differenceOf(value);
  if (kind === 'pressureDifference') return (value) => show.pressureOf(value / 1000);
  return (value) => value;
}
