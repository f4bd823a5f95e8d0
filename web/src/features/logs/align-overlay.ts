import type { LogView, Quantity } from '@gezeit/contract';
import type { TraceSamples } from '../../shared/api/traces.js';

type Column = LogView['columns'][number];

/** What shows best that two records are of one moment, the best first. */
const TELLING: readonly Quantity[] = [
  'throttle',
  'pedal',
  'engineSpeed',
  'boostPressure',
  'manifoldPressure',
  'pressureDrop',
  'power',
  'torque',
  'rollerSpeed',
  'vehicleSpeed',
  'airMassFlow',
];

/** Columns by which two logs can be laid upon one another: the same quantity where both have one that tells, else each its best. */
export function tellingColumns(lead: readonly Column[], own: readonly Column[]): { lead: Column | null; own: Column | null } {
  const of = (columns: readonly Column[], quantity: Quantity) => columns.find((column) => column.quantity === quantity);
  const both = TELLING.find((quantity) => of(lead, quantity) && of(own, quantity));
  const best = (columns: readonly Column[]) => TELLING.map((quantity) => of(columns, quantity)).find(Boolean) ?? columns[0] ?? null;
  return both ? { lead: of(lead, both)!, own: of(own, both)! } : { lead: best(lead), own: best(own) };
}

/** The least and the greatest value between two times; null where there is no height to draw. */
export function rangeWithin({ timeS, values }: TraceSamples, [fromS, toS]: readonly [number, number]): readonly [number, number] | null {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < values.length; i += 1) {
    if (timeS[i]! < fromS || timeS[i]! > toS || !Number.isFinite(values[i]!)) continue;
    low = Math.min(low, values[i]!);
    high = Math.max(high, values[i]!);
  }
  return high > low ? [low, high] : null;
}

/** A trace as a path: time across, from the bottom of a range to its top up. Gaps break the line. */
export function overlayPath(
  { timeS, values }: TraceSamples,
  x: (timeS: number) => number,
  [top, bottom]: readonly [number, number],
  [low, high]: readonly [number, number],
): string {
  const parts: string[] = [];
  let drawing = false;
  for (let i = 0; i < values.length; i += 1) {
    if (!Number.isFinite(values[i]!)) {
      drawing = false;
      continue;
    }
    const y = bottom - ((values[i]! - low) / (high - low)) * (bottom - top);
    parts.push(`${drawing ? 'L' : 'M'}${x(timeS[i]!).toFixed(1)} ${y.toFixed(1)}`);
    drawing = true;
  }
  return parts.join('');
}
