import type { Quantity } from '@gezeit/contract';
import type { ReadTable } from '../log/log-table.js';
import { putInPlace, withoutPlaced, type HandPlacing, type Placed, type StandingPull } from './by-hand.js';
import { deviceKind, type DeviceKind } from './device-kind.js';
import { bringTogether, CLOCK_RULES } from './clock-matching.js';
import { shapeOdds } from './pair-likelihood.js';
import { LONGEST_PULL_FILE_S, type SweepEvent } from './sweep-event.js';
import { standingPulls } from './standing.js';
import { timedOf, wholeFile, type Gathered, type GatherFile, type Gathering, type Timed } from './timed.js';

/** What files' numbers say where both devices count alike, as log-odds; assumptions. */
const SAME_NUMBER = 2;
const OTHER_NUMBER = -1.5;

/**
 * Brings the sweeps of all files together to pulls: by clocks, by the courses of the sweeps, by order and number. What is not sure is asked.
 * Pulls that stand already keep their files; what was placed by hand goes where it was put.
 */
export function gatherPulls(files: readonly GatherFile[], hand: HandPlacing = {}): Gathered {
  const gathered: Gathered = { pulls: [], unmatched: [], questions: [] };
  const placed: Placed[] = [];
  const free = files.map((file) => withoutPlaced(file, hand, placed));
  const standing = hand.standing?.length ? hand.standing : null;
  for (const group of standing ? [free] : byFolder(free)) gatherGroup(group, standing, gathered);
  for (const entry of placed) putInPlace(entry, files, gathered);
  const byTime = gathered.pulls.every(({ startedMs }) => startedMs !== null);
  if (byTime) gathered.pulls.sort((a, b) => a.startedMs! - b.startedMs!);
  return gathered;
}

/** Folders that each hold several devices are days of their own. */
function byFolder(files: readonly GatherFile[]): GatherFile[][] {
  const groups = new Map<string, GatherFile[]>();
  for (const file of files) {
    const folder = file.table.file.split('/').slice(0, -1).join('/');
    groups.set(folder, [...(groups.get(folder) ?? []), file]);
  }
  const all = [...groups.values()];
  const ofSeveral = all.filter((group) => new Set(group.filter(({ events }) => events.length > 0).map(seriesKey)).size > 1);
  return all.length > 1 && ofSeveral.length === all.length ? all : [[...files]];
}

const seriesKey = ({ device, table }: GatherFile): string => `${device}|${table.report.columns.map(({ header }) => header).join('|')}`;

function gatherGroup(files: readonly GatherFile[], standing: readonly StandingPull[] | null, gathered: Gathered): void {
  const kept = new Set(standing?.flatMap(({ logs }) => logs.map(({ file }) => file)));
  const series = seriesOf(
    files.filter(({ table }) => !kept.has(table.file)),
    gathered,
  );
  const [first = [], ...others] = series;
  const pulls: Gathering[] = standing
    ? standingPulls(standing, files)
    : first.map((timed) => ({ id: null, startedMs: null, all: [timed], sure: [1] }));
  for (const next of standing ? series : others) bringIn(pulls, next, gathered);
  const startOf = new Map(files.map(({ table }) => [table.file, table.clock]));
  for (const { id, startedMs, all, sure } of pulls) {
    const dated = all.find(({ domain, anchor }) => domain === 'dated' && !anchor) ?? null;
    gathered.pulls.push({
      id,
      members: all.flatMap(({ event, device, anchor }, i) => (anchor ? [] : [{ event, device, sure: sure[i]! }])),
      startedMs: startedMs ?? (dated ? dated.atS * 1000 : null),
      zoneMin: dated ? (startOf.get(dated.event.file)?.zoneMin ?? null) : null,
    });
  }
}

/** The sweeps of each device in their order; the series by which pulls are told best comes first. */
function seriesOf(files: readonly GatherFile[], gathered: Gathered): Timed[][] {
  const groups = new Map<string, Timed[]>();
  for (const file of files) {
    const events = file.events.length > 0 ? file.events : withoutSweep(file, gathered);
    // A clock that runs from anywhere in a file of many pulls compares with nothing outside it.
    const ownClock = file.table.clock?.kind === 'elapsed' && file.table.clock.startsAtMs === null && events.length > 1;
    const key = ownClock ? `${seriesKey(file)}|${file.table.file}` : seriesKey(file);
    groups.set(key, [...(groups.get(key) ?? []), ...events.map((event) => timedOf(event, file))]);
  }
  const series = [...groups.values()].map((list) => {
    const timed = list.every(({ domain }) => domain === list[0]!.domain);
    return list.sort((a, b) => (timed ? a.atS - b.atS : naturally(a, b)));
  });
  const rank = (list: Timed[]) =>
    list.length + (list[0]!.domain === 'dated' ? 0.6 : isTimed(list) ? 0.4 : 0) + (list[0]!.event.map ? 0.3 : 0);
  return series.filter((list) => list.length > 0).sort((a, b) => rank(b) - rank(a));
}

const isTimed = (list: readonly Timed[]) => list.every(({ domain }) => domain === list[0]!.domain);
const COLLATOR = new Intl.Collator('en', { numeric: true });
const naturally = (a: Timed, b: Timed) => COLLATOR.compare(a.event.file, b.event.file) || a.event.startS - b.event.startS;

/** A short recording that shows no sweep may be a pull's by order; a weather file is of the day, not of a pull. */
function withoutSweep({ table, device, taken = [] }: GatherFile, gathered: Gathered): SweepEvent[] {
  const { file } = table;
  if (taken.length > 0) return [];
  const refuse = (why: string) => {
    gathered.unmatched.push({ file, why });
    return [];
  };
  if (device === 'weather') return refuse('It holds the weather of the day, and no pull.');
  if (device === 'unknown') return refuse('Nothing in it was recognised that shows a pull.');
  const [whole] = wholeFile(table);
  // Without any sweep it may still be a pull's by order.
  if (whole && !(whole.endS - whole.startS > LONGEST_PULL_FILE_S)) return [whole];
  return refuse('No full-throttle sweep was found in it.');
}

/** Brings the sweeps of one device to the pulls that are known; those that belong to none are pulls of their own. */
function bringIn(pulls: Gathering[], next: readonly Timed[], gathered: Gathered): void {
  const shapes = shapeOdds(
    pulls.map(({ all }) => all.flatMap(({ event, anchor }) => (anchor ? [] : [event]))),
    next.map(({ event }) => event),
  );
  const numbers = numberOdds(pulls, next);
  const plain = pulls.map((_, i) => next.map((__, j) => shapes[i]![j]! + numbers[i]![j]!));
  const wanted = next[0]?.domain;
  const isAbsolute = wanted === 'dated' || wanted === 'clock';
  const { likely } = bringTogether(
    comparableClock(pulls, next),
    next.map(({ atS }) => atS),
    isAbsolute,
    plain,
  );
  const unsure: Timed[] = [];
  const fresh: { timed: Timed; after: number }[] = [];
  let after = -1;
  next.forEach((timed, j) => {
    const { best, sure, any } = likely[j]!;
    if (sure >= CLOCK_RULES.sureEnough) {
      pulls[best]!.all.push(timed);
      pulls[best]!.sure.push(sure);
      after = best;
    } else if (any < CLOCK_RULES.alone) fresh.push({ timed, after });
    else unsure.push(timed);
  });
  for (const { timed, after: at } of fresh.reverse()) pulls.splice(at + 1, 0, { id: null, startedMs: null, all: [timed], sure: [1] });
  if (unsure.length > 0) askAbout(unsure, pulls, next, gathered);
}

/** Numbers of files count where both devices number alike. */
function numberOdds(pulls: readonly Gathering[], next: readonly Timed[]): number[][] {
  const left = pulls.map(({ all }) => all.find(({ number }) => number !== null)?.number ?? null);
  const [a, b] = [new Set(left), new Set(next.map(({ number }) => number))];
  const known = !a.has(null) && !b.has(null) && a.size === pulls.length && b.size === next.length;
  const [fewer, more] = a.size <= b.size ? [a, b] : [b, a];
  // Numbers without a gap count a device's own files: where some are missing, they do not tell which.
  const alike = known && [...fewer].every((value) => more.has(value)) && (fewer.size === more.size || hasGap(fewer));
  return left.map((number) => next.map((timed) => (!alike ? 0 : timed.number === number ? SAME_NUMBER : OTHER_NUMBER)));
}

function hasGap(numbers: ReadonlySet<number | null>): boolean {
  const sorted = [...numbers].filter((value) => value !== null).sort((x, y) => x - y);
  return sorted.length > 0 && sorted.at(-1)! - sorted[0]! + 1 > sorted.length;
}

/** When each pull was by a clock that tells the distances between them; null where there is none, or where the device has none. */
function comparableClock(pulls: readonly Gathering[], next: readonly Timed[]): (number | null)[] | null {
  if (next.length < 1 || !isTimed(next) || (next.length === 1 && next[0]!.domain !== 'dated' && next[0]!.domain !== 'clock')) return null;
  const domains = new Map<string, number>();
  for (const { all } of pulls)
    for (const domain of new Set(all.map((timed) => timed.domain))) domains.set(domain, (domains.get(domain) ?? 0) + 1);
  const wanted = next[0]!.domain;
  const [best] = [...domains].sort(([a, x], [b, y]) => Number(b === wanted) - Number(a === wanted) || y - x);
  if (!best || best[1] < 2) return best && best[0] === wanted && (wanted === 'dated' || wanted === 'clock') ? at(best[0]) : null;
  return at(best[0]);
  function at(domain: string): (number | null)[] {
    return pulls.map(({ all }) => all.find((timed) => timed.domain === domain)?.atS ?? null);
  }
}

function askAbout(unsure: readonly Timed[], pulls: readonly Gathering[], next: readonly Timed[], gathered: Gathered): void {
  const names = [...new Set(unsure.map(({ event }) => event.file))];
  for (const file of names)
    gathered.unmatched.push({
      file,
      why: `${next.length} ${next.length === 1 ? 'pull' : 'pulls'} in its device's files, ${pulls.length} in the others: it fits more than one.`,
    });
  gathered.questions.push({
    about: 'which-pull',
    what: `${names.length === 1 ? `Which pull is ${names[0]} of` : `Which pulls are ${names.slice(0, 3).join(', ')}${names.length > 3 ? ' and others' : ''} of`}?`,
    choices: pulls.map(({ id }, i) => id ?? `p${String(i + 1).padStart(2, '0')}`),
    files: names,
  });
}

/** The kind of device that a table is from. */
export const kindOf = ({ columns }: ReadTable): DeviceKind => deviceKind(columns.map(({ quantity }): Quantity | null => quantity));
