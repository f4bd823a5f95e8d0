import type { Bundle } from '@gezeit/contract';
import type { Assumptions } from './assumptions.js';
import { takeHeaderApart } from '../channels/header.js';
import { WHOLE_INTAKE, type ChannelSource, type PullCurve } from '../pull/curve.js';
import { differenceToSi } from '../units/units.js';
import { unitFromText } from '../units/unit-spellings.js';

/** A sensor: what it may be off by (± at 95 %, in the unit kept inside), the same in every pull that it read. */
export interface Sensor {
  /** Same text, same sensor. */
  id: string;
  accuracy: number;
}

/** The sensor behind a channel of a pull, at a reading; `channels.*.accuracy` wins over the assumption for its quantity. Null where it is not logged. */
export function sensorOf(
  bundle: Pick<Bundle, 'channels'>,
  assumptions: Assumptions,
  { sources }: PullCurve,
  key: string,
  reading: number,
): Sensor | null {
  const source = sources.get(key);
  return source ? sensorAt(bundle, assumptions, source, key, reading) : null;
}

const MADE_OF_BAROMETER: ReadonlySet<string> = new Set(Object.values(WHOLE_INTAKE).map((section) => `pressureDrop/${section}`));

/** The same where the column is known. */
export function sensorAt(
  bundle: Pick<Bundle, 'channels'>,
  { sensors }: Assumptions,
  source: ChannelSource,
  key: string,
  reading: number,
): Sensor {
  // A drop made of the barometer and one absolute pressure has both their errors.
  if (MADE_OF_BAROMETER.has(key)) {
    const pressure = sensorAt(bundle, { sensors } as Assumptions, source, 'inletPressure', reading);
    return { id: pressure.id, accuracy: together(pressure.accuracy, sensors.pressurePa) };
  }
  const { file, device, column, unitText } = source;
  const mapping = mappingOf(bundle, `file:${file}`, column) ?? mappingOf(bundle, device, column);
  const id = `${device}/${column}`;
  if (mapping?.accuracy != null) {
    const unit = unitFromText(mapping.unit ?? unitText ?? '');
    return { id, accuracy: unit === null ? mapping.accuracy : differenceToSi(mapping.accuracy, unit) };
  }
  return { id, accuracy: usual(sensors, key, reading) };
}

function mappingOf({ channels }: Pick<Bundle, 'channels'>, device: string, column: string) {
  const own = channels?.[device];
  return own && (own[column] ?? Object.entries(own).find(([header]) => takeHeaderApart(header).name === column)?.[1]);
}

function usual(sensors: Assumptions['sensors'], key: string, reading: number): number {
  if (/temperature$/i.test(key)) return sensors.temperatureK;
  if (key.startsWith('pressureDrop')) return sensors.dropPa;
  if (key === 'airMassFlow') return sensors.flowShare * Math.abs(reading);
  return sensors.pressurePa;
}

/** Half widths of independent causes together. */
export const together = (...halves: number[]): number => Math.hypot(...halves);
