import { lowerBound } from '../numeric/interpolate.js';
import type { PullCurve } from '../pull/curve.js';

/** What the pulls of a group show at each engine speed, in ascending order; and which pulls they are. */
interface PeerValues {
  members: ReadonlySet<PullCurve>;
  byRpm: ReadonlyMap<number, Float64Array>;
}

/** Each pull of a group is held against the others: what they show is put in order once for all of them. */
const kept = new WeakMap<readonly PullCurve[], Map<string, PeerValues>>();

/** What every pull of a group shows, by engine speed. @param key what is looked at: one way of `valuesOf`. */
export function peerValues(
  group: readonly PullCurve[],
  key: string,
  valuesOf: (curve: PullCurve) => Iterable<readonly [number, number]>,
): PeerValues {
  const known = kept.get(group) ?? new Map<string, PeerValues>();
  kept.set(group, known);
  const before = known.get(key);
  if (before) return before;
  const lists = new Map<number, number[]>();
  for (const curve of group)
    for (const [rpm, value] of valuesOf(curve)) {
      const list = lists.get(rpm);
      if (list) list.push(value);
      else lists.set(rpm, [value]);
    }
  const made = { members: new Set(group), byRpm: new Map([...lists].map(([rpm, list]) => [rpm, Float64Array.from(list).sort()] as const)) };
  known.set(key, made);
  return made;
}

/** The median of what the others show at an engine speed: of all but the pull itself, where it is one of them. NaN where fewer than so many do. */
export function medianOfOthers({ members, byRpm }: PeerValues, curve: PullCurve, rpm: number, own: number, least: number): number {
  const values = byRpm.get(rpm);
  if (!values) return Number.NaN;
  const at = members.has(curve) && Number.isFinite(own) ? lowerBound(values, own) : values.length;
  const count = at < values.length ? values.length - 1 : values.length;
  if (count < Math.max(1, least)) return Number.NaN;
  const other = (i: number) => values[i < at ? i : i + 1]!;
  const middle = count >> 1;
  return count % 2 === 1 ? other(middle) : (other(middle - 1) + other(middle)) / 2;
}
