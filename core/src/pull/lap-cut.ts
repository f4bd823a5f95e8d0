import type { LapLine } from '@gezeit/contract';
import { moved, planeAt } from '../road/plane.js';
import type { Trace } from './traces.js';

/** Crossings of one line closer together than this are one, s. An assumption. */
const APART_S = 15;

/** When a lap channel counts on, s: the moments at which a new lap begins. */
export function cutByChannel({ timeS, values }: Trace): number[] {
  const cuts: number[] = [];
  for (let i = 1; i < values.length; i += 1) if (Math.round(values[i]!) > Math.round(values[i - 1]!)) cuts.push(timeS[i]!);
  return cuts;
}

/**
 * When a line across the track is crossed, s, between two positions each: in the direction in which most crossings go, so that a track that comes
 * near the line twice is cut once a lap.
 */
export function cutByLine(latitude: Trace, longitude: Trace, line: LapLine): number[] {
  const plane = planeAt(line.from);
  const [a, b] = [plane(line.from), plane(line.to)];
  const along = moved(a, b);
  const crossings: { atS: number; forward: boolean }[] = [];
  let before: { atS: number; place: { x: number; y: number }; side: number } | null = null;
  for (let i = 0; i < latitude.timeS.length; i += 1) {
    const place = plane({ latitude: latitude.values[i]!, longitude: longitude.values[i]! });
    const from = moved(a, place);
    const side = along.x * from.y - along.y * from.x;
    if (before && side !== before.side && Math.sign(side) !== Math.sign(before.side) && side !== 0) {
      const share = before.side / (before.side - side);
      const step = moved(before.place, place);
      const at = { x: before.place.x + share * step.x - a.x, y: before.place.y + share * step.y - a.y };
      const onLine = (at.x * along.x + at.y * along.y) / (along.x ** 2 + along.y ** 2);
      if (onLine >= 0 && onLine <= 1) crossings.push({ atS: before.atS + share * (latitude.timeS[i]! - before.atS), forward: side > 0 });
    }
    if (side !== 0) before = { atS: latitude.timeS[i]!, place, side };
  }
  const forward = crossings.filter((crossing) => crossing.forward).length * 2 >= crossings.length;
  const cuts: number[] = [];
  for (const crossing of crossings)
    if (crossing.forward === forward && (cuts.length === 0 || crossing.atS - cuts.at(-1)! >= APART_S)) cuts.push(crossing.atS);
  return cuts;
}
