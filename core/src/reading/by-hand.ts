import { sweepKey } from '@gezeit/contract';
import type { ReadTable } from '../log/log-table.js';
import { shiftOf, type SweepEvent } from './sweep-event.js';
import { timedOf, wholeFile, type Gathered, type GatherFile, type Timed } from './timed.js';

/** A pull that stands already: files are brought to it, and it is never cut, renamed or moved. */
export interface StandingPull {
  id: string;
  /** When it was driven, ms as the clock on the wall says it; null where nobody knows. */
  startedMs: number | null;
  logs: { file: string; recording?: number | null; startS?: number | null }[];
}

/** What is decided about which files belong together, before anything is brought together. */
export interface HandPlacing {
  standing?: readonly StandingPull[] | null;
  /** By the key of a sweep, or `file#` of a file that shows none: the key of the pull that it belongs to, or one of the two below. */
  places?: Readonly<Record<string, string>>;
}

/** A sweep that belongs to no pull. */
const NOWHERE = 'none';
/** A sweep that is a pull of its own. */
const ON_ITS_OWN = 'own';

/** By what a sweep is known in a reading. */
function eventKey({ file, recording, startS }: SweepEvent, table: ReadTable): string {
  return sweepKey({ file, recording, startS: Number.isNaN(startS) ? null : startS - shiftOf(table, recording) });
}

/** Where a sweep was put by hand; null where nobody said it. */
function placeOf(
  event: SweepEvent,
  { table, events }: { table: ReadTable; events: readonly SweepEvent[] },
  { places = {} }: HandPlacing,
): string | null {
  return places[eventKey(event, table)] ?? (events.length === 0 ? places[`${table.file}#`] : undefined) ?? null;
}

/** A sweep with where it was put. */
export interface Placed {
  timed: Timed;
  file: GatherFile;
  target: string;
}

/** A file without the sweeps that were placed by hand; one that shows none may be placed as a whole. */
export function withoutPlaced(file: GatherFile, hand: HandPlacing, placed: Placed[]): GatherFile {
  const events = file.events.length > 0 ? file.events : wholeFile(file.table);
  const taken: SweepEvent[] = [];
  for (const event of events) {
    const target = placeOf(event, file, hand);
    if (target === null) continue;
    taken.push(event);
    placed.push({ timed: timedOf(event, file), file, target });
  }
  return { ...file, events: file.events.filter((event) => !taken.includes(event)), taken };
}

/** Puts a sweep where it was put by hand. */
export function putInPlace(
  { timed, file, target }: Placed,
  files: readonly GatherFile[],
  { pulls, unmatched }: Pick<Gathered, 'pulls' | 'unmatched'>,
): void {
  const member = { event: timed.event, device: file.device, sure: 1 };
  const dated = timed.domain === 'dated' ? timed.atS * 1000 : null;
  const zoneMin = file.table.clock?.zoneMin ?? null;
  const tables = new Map(files.map(({ table }) => [table.file, table]));
  if (target === NOWHERE) unmatched.push({ file: file.table.file, why: 'It was left out by hand.' });
  else if (target === ON_ITS_OWN) pulls.push({ id: null, members: [member], startedMs: dated, zoneMin });
  else {
    const pull = pulls.find(
      ({ id, members }) => target === `pull:${id}` || members.some(({ event }) => eventKey(event, tables.get(event.file)!) === target),
    );
    if (!pull) unmatched.push({ file: file.table.file, why: 'The pull that it was put into is no longer found.' });
    else {
      pull.members.push(member);
      if (pull.startedMs === null && dated !== null) Object.assign(pull, { startedMs: dated, zoneMin });
    }
  }
}
