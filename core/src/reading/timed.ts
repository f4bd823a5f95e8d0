import type { ReadQuestion } from '@gezeit/contract';
import type { ReadTable } from '../log/log-table.js';
import type { DeviceKind } from './device-kind.js';
import { triggerEdges } from '../pull/trigger-edges.js';
import { shiftOf, type SweepEvent } from './sweep-event.js';

/** A file with its sweeps, as it takes part. */
export interface GatherFile {
  table: ReadTable;
  device: DeviceKind;
  events: SweepEvent[];
  /** What of it was placed by hand and is no longer among its events. */
  taken?: readonly SweepEvent[];
}

/** A sweep with where it stands in time. */
export interface Timed {
  event: SweepEvent;
  device: DeviceKind;
  /** Times are comparable within a domain only: all dated files, all clocks of a day, or one file. */
  domain: string;
  atS: number;
  number: number | null;
  /** It stands for when the pull was driven, and is no file. */
  anchor?: boolean;
}

/** A pull as it grows, file by file. */
export interface Gathering {
  id: string | null;
  startedMs: number | null;
  all: Timed[];
  sure: number[];
}

export const NO_SWEEP = {
  recording: 0,
  fromRpm: null,
  toRpm: null,
  gear: null,
  by: 'nothing' as const,
  liftWithinS: null,
  map: null,
  trigger: null,
};

/** A file that shows no sweep, as what a pull might be; a curve has no time. */
export function wholeFile(table: ReadTable): [SweepEvent] {
  const { file, timeS } = table;
  if (!timeS) return [{ ...NO_SWEEP, file, startS: Number.NaN, endS: Number.NaN, liftS: Number.NaN }];
  return [{ ...NO_SWEEP, file, startS: timeS[0]!, endS: timeS.at(-1)!, liftS: timeS.at(-1)!, trigger: triggerEdges(table) }];
}

/** A sweep with what its file tells of when it was. */
export function timedOf(event: SweepEvent, { table, device }: GatherFile): Timed {
  const { clock, file } = table;
  const ownS = event.startS - shiftOf(table, event.recording);
  const number = /(\d+)(?!.*\d)/.exec(
    file
      .split('/')
      .pop()!
      .replace(/\.[^.]*$/, ''),
  )?.[1];
  const plain = { event, device, number: number === undefined ? null : Number(number) };
  if (clock && clock.startsAtMs !== null) return { ...plain, domain: 'dated', atS: clock.startsAtMs / 1000 + ownS };
  if (clock?.kind === 'clock') return { ...plain, domain: 'clock', atS: ownS };
  return { ...plain, domain: `${file}/${event.recording}`, atS: ownS };
}

/** A pull as it was brought together. */
export interface GatheredPull {
  /** Of a pull that stands already; null for one that was found. */
  id: string | null;
  members: { event: SweepEvent; device: DeviceKind; sure: number }[];
  /** Moment of full throttle, ms as the clock on the wall says it; null where no file tells. */
  startedMs: number | null;
  zoneMin: number | null;
}

/** What all files were brought together to. */
export interface Gathered {
  pulls: GatheredPull[];
  unmatched: { file: string; why: string }[];
  questions: ReadQuestion[];
}
