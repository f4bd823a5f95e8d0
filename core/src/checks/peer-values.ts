import type { PullCurve } from '../pull/curve.js';
import { GRID_STEP_RPM } from '../pull/resample.js';

/** What the pulls of a group show at each engine speed, in ascending order, a row of the grid each; and which pulls they are. */
interface PeerValues {
  members: ReadonlySet<PullCurve>;
  /** First row, as a multiple of the grid's step. */
  first: number;
  /** Known of each row; as many places a row as there are pulls. */
  counts: Uint16Array;
  values: Float64Array;
}

/** Each pull of a group is held against the others: what they show is put in order once for all of them. */
const kept = new WeakMap<readonly PullCurve[], Map<string, PeerValues>>();

/** Every curve stands on multiples of one step. */
const placeOf = (rpm: number) => Math.round(rpm / GRID_STEP_RPM);

/**
 * What every pull of a group shows, by engine speed.
 * @param key what is looked at: one way of `valuesOf`.
 * @param valuesOf along the curve's grid, what is no number is not known; null where the pull shows nothing of it.
 */
export function peerValues(group: readonly PullCurve[], key: string, valuesOf: (curve: PullCurve) => Float64Array | null): PeerValues {
  const known = kept.get(group) ?? new Map<string, PeerValues>();
  kept.set(group, known);
  const before = known.get(key);
  if (before) return before;
  let [first, last] = [Infinity, -Infinity];
  for (const { gridRpm } of group) {
    if (gridRpm.length === 0) continue;
    first = Math.min(first, placeOf(gridRpm[0]!));
    last = Math.max(last, placeOf(gridRpm.at(-1)!));
  }
  const rows = Math.max(0, last - first + 1);
  const made = { members: new Set(group), first, counts: new Uint16Array(rows), values: new Float64Array(rows * group.length) };
  for (const curve of group) {
    const values = valuesOf(curve);
    if (values) insert(made, placeOf(curve.gridRpm[0]!) - first, values);
  }
  known.set(key, made);
  return made;
}

/** Puts a pull's values into the rows from one on, each into its place among those that are there. */
function insert({ members, counts, values }: PeerValues, from: number, added: Float64Array): void {
  for (let i = 0; i < added.length; i += 1) {
    const value = added[i]!;
    if (!Number.isFinite(value)) continue;
    const row = (from + i) * members.size;
    let at = row + counts[from + i]!;
    for (; at > row && values[at - 1]! > value; at -= 1) values[at] = values[at - 1]!;
    values[at] = value;
    counts[from + i]! += 1;
  }
}

/** The median of what the others show at an engine speed: of all but the pull itself, where it is one of them. NaN where fewer than so many do. */
export function medianOfOthers(
  { members, first, counts, values }: PeerValues,
  curve: PullCurve,
  rpm: number,
  own: number,
  least: number,
): number {
  const place = placeOf(rpm) - first;
  const known = counts[place];
  if (known === undefined) return Number.NaN;
  const row = place * members.size;
  const isMember = members.has(curve) && Number.isFinite(own);
  let at = known;
  if (isMember) for (at = 0; at < known && values[row + at]! < own;) at += 1;
  const count = at < known ? known - 1 : known;
  if (count < Math.max(1, least)) return Number.NaN;
  const middle = count >> 1;
  const upper = values[row + (middle < at ? middle : middle + 1)]!;
  if (count % 2 === 1) return upper;
  return (values[row + (middle - 1 < at ? middle - 1 : middle)]! + upper) / 2;
}
