import { QUANTITY_UNITS } from '@gezeit/core';
import type { Quantity } from '@gezeit/contract';
import type { DeviceSample } from './device.js';

/** The unit kept inside, by dimension, as the reader knows it. */
const INSIDE: Record<string, string> = {
  time: 's',
  rotation: 'rpm',
  speed: 'm/s',
  power: 'W',
  torque: 'N·m',
  ratio: '%',
  temperature: '°C',
  pressure: 'Pa',
  massFlow: 'kg/s',
  frequency: 'Hz',
  lambda: 'λ',
  angle: '°',
  length: 'm',
  factor: '–',
};

/** How a quantity is written at the head of a column, so that the reader takes it for the same. */
export function columnHeader(key: string): string {
  const [quantity, section] = key.split('/') as [Quantity, string | undefined];
  const words = quantity.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
  return `${words}${section ? ` ${section}` : ''} [${INSIDE[QUANTITY_UNITS[quantity].dimension]}]`;
}

/** The stream of one pull as a log file of its own. */
export function streamLog(samples: readonly DeviceSample[]): Uint8Array {
  const keys = [...new Set(samples.flatMap(({ values }) => [...values.keys()]))];
  const from = samples[0]!.atMs;
  const lines = [['time [s]', ...keys.map(columnHeader)].join(',')];
  for (const { atMs, values } of samples)
    lines.push([((atMs - from) / 1000).toFixed(3), ...keys.map((key) => values.get(key) ?? '')].join(','));
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}
