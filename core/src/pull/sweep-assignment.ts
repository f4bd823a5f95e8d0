import type { LogReference, Pull } from '@gezeit/contract';
import { GezeitError } from '../errors.js';
import type { LogTable } from '../log/log-table.js';
import { findSweeps, pullSweeps, type Sweep } from './sweep.js';

/** Tables of a bundle's logs by file. */
export type LogTables = ReadonlyMap<string, LogTable>;

/** The sweep of each pull in each of its files, checked for count: never shifted silently. */
export class SweepAssignment {
  readonly #byFile = new Map<string, Map<string, Sweep>>();

  /** @throws GezeitError `sweep-count` where a file holds another number of sweeps than pulls that list it. */
  constructor(pulls: Pull[], tables: LogTables) {
    for (const [file, table] of tables) {
      const listing = pulls.filter((pull) => pull.kind !== 'drive' && pull.logs.some((log) => log.file === file)).sort(byStart);
      const placed = listing
        .map((pull) => [pull, pull.logs.find((log) => log.file === file)!] as const)
        .filter(([, { startS }]) => startS != null);
      if (placed.length > 0 && placed.length === listing.length) {
        const found = findSweeps(table);
        this.#byFile.set(file, new Map(placed.flatMap(([pull, log]) => withId(pull.id, placedSweep(found, log, table)))));
        continue;
      }
      const knowsThrottle = table.columns.some(({ quantity }) => quantity === 'throttle' || quantity === 'pedal');
      const sweeps = pullSweeps(findSweeps(table), listing.length === 1 && !knowsThrottle);
      if (sweeps.length === 0 || listing.length === 0) continue;
      if (sweeps.length !== listing.length) {
        const message = `The file holds ${sweeps.length} full-throttle sweeps, but ${listing.length} pulls list it (${listing.map(({ id }) => id).join(', ')}).`;
        throw new GezeitError('sweep-count', message, 'Add the missing pull (as "conditioning" if it does not count) or cut the file.', {
          file,
        });
      }
      this.#byFile.set(file, new Map(listing.map((pull, index) => [pull.id, sweeps[index]!])));
    }
  }

  sweep(pull: Pull, file: string): Sweep | null {
    return this.#byFile.get(file)?.get(pull.id) ?? null;
  }
}

const withId = <T>(id: string, value: T | null): [string, T][] => (value === null ? [] : [[id, value]]);

/** The sweep that lies where a pull's log says that it does; null where none does. */
function placedSweep(found: readonly Sweep[], { startS, endS, recording }: LogReference, { report }: LogTable): Sweep | null {
  const shiftS = report.recordings?.[recording ?? 0]?.shiftS ?? 0;
  const [from, to] = [startS! + shiftS, (endS ?? startS!) + shiftS];
  const overlap = (sweep: Sweep) => Math.min(sweep.endS, to) - Math.max(sweep.startS, from);
  const best = found.reduce<Sweep | null>((most, sweep) => (most === null || overlap(sweep) > overlap(most) ? sweep : most), null);
  return best && overlap(best) > 0 ? best : null;
}

/** Order of two pulls in time. */
export function byStart(a: Pull, b: Pull): number {
  return Date.parse(a.startedAt) - Date.parse(b.startedAt);
}
