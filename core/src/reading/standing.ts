import type { StandingPull } from './by-hand.js';
import { shiftOf, type SweepEvent } from './sweep-event.js';
import { NO_SWEEP, timedOf, wholeFile, type GatherFile, type Gathering, type Timed } from './timed.js';

/** Pulls that stand already, in their order, each with what its files show of it and with when it was driven. */
export function standingPulls(standing: readonly StandingPull[], files: readonly GatherFile[]): Gathering[] {
  const fileOf = new Map(files.map((file) => [file.table.file, file]));
  return standing.map(({ id, startedMs, logs }) => {
    const own = logs.flatMap((log) => {
      const file = fileOf.get(log.file);
      const event = file && ownEvent(file, log, id, standing);
      return event ? [timedOf(event, file!)] : [];
    });
    const anchor = startedMs === null ? [] : [anchorAt(startedMs, id)];
    const all = [...own, ...anchor];
    return { id, startedMs, all, sure: all.map(() => 1) };
  });
}

/** Which sweep of a file is a pull's: where the pull says it, else by the order of the pulls that list the file. */
function ownEvent(
  file: GatherFile,
  log: StandingPull['logs'][number],
  id: string,
  standing: readonly StandingPull[],
): SweepEvent | undefined {
  const { taken = [] } = file;
  const shown = [...file.events, ...taken].sort((x, y) => x.startS - y.startS);
  const events = shown.length > 0 ? shown : wholeFile(file.table);
  const event = bySaidStart(events, log, file) ?? byOrder(events, log, id, standing);
  return event && taken.includes(event) ? undefined : event;
}

/** A pull begins no further than this from where it was said to, s. */
const SAID_WITHIN_S = 2;

function bySaidStart(events: readonly SweepEvent[], { startS, recording }: StandingPull['logs'][number], { table }: GatherFile) {
  if (startS == null) return undefined;
  const atS = startS + shiftOf(table, recording ?? 0);
  return events.find((event) => Math.abs(event.startS - atS) < SAID_WITHIN_S);
}

function byOrder(
  events: readonly SweepEvent[],
  { file, startS }: StandingPull['logs'][number],
  id: string,
  standing: readonly StandingPull[],
) {
  const listing = standing.filter(({ logs }) => logs.some((entry) => entry.file === file));
  if (startS != null || (listing.length > 1 && listing.length !== events.length)) return undefined;
  return events[listing.findIndex((pull) => pull.id === id)];
}

function anchorAt(startedMs: number, id: string): Timed {
  const number = /(\d+)$/.exec(id)?.[1];
  const event = { ...NO_SWEEP, file: '', startS: Number.NaN, endS: Number.NaN, liftS: Number.NaN };
  return { event, device: 'unknown', domain: 'dated', atS: startedMs / 1000, number: number ? Number(number) : null, anchor: true };
}
