import type { Quantity } from '@gezeit/contract';
import { fromSi, type UnitName } from '../units/units.js';
import type { Formatter } from '../format/formatter.js';
import { plain, tied } from '../format/values.js';

/** Units in which what nobody chooses a unit for is said: a table of its own, since what columns can be is far more than a page begins with. */
const SHOWN_IN: Partial<Record<Quantity, UnitName>> = {
  vehicleSpeed: 'km/h',
  rollerSpeed: 'km/h',
  relativeHumidity: '%',
  throttle: '%',
  pedal: '%',
  ethanolPct: '%',
  lambda: 'λ',
  ignitionAdvance: '°',
  knockRetard: '°',
  injectorTime: 'ms',
  airMeterFrequency: 'Hz',
  compressorSpeed: 'rpm',
};

/** A channel's reading, kept in the unit inside, in the units that were chosen. */
export function channelReading(key: string, value: number, f: Formatter): string {
  const quantity = key.split('/')[0] as Quantity;
  if (/temperature$/i.test(quantity)) return f.temperature(value);
  if (/^(pressureDrop|.*[pP]ressure)$/.test(quantity)) return f.pressure(value);
  if (quantity === 'airMassFlow') return f.massFlow(value);
  if (quantity === 'engineSpeed') return f.rpm(value);
  if (quantity === 'power') return shownIn(f.shownValue(value / 1000, 'kW'), f.shownUnit('kW'));
  if (quantity === 'torque') return shownIn(f.shownValue(value, 'N·m'), f.shownUnit('N·m'));
  const unit = SHOWN_IN[quantity];
  return unit ? shownIn(fromSi(value, unit), unit) : plain(value, 2);
}

const shownIn = (value: number, unit: string) => tied(plain(value, Math.abs(value) >= 100 ? 0 : Math.abs(value) >= 10 ? 1 : 2), unit);

/** Seconds to a tenth. */
export const secondsText = (seconds: number): string => tied(seconds.toFixed(1), 's');
