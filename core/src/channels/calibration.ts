import type { Bundle, ChannelMapping, Pull } from '@gezeit/contract';
import { knownZone } from '../units/time-zone.js';
import { wallMs } from '../units/wall-time.js';

type Mappings = Record<string, ChannelMapping>;

/** A calibration that was put right: what was read by a device under one name is multiplied and shifted, on some days only where dates are given. */
export interface Calibration {
  device: string;
  column: string;
  factor: number;
  offset: number;
  unit: string | null;
  from: string | null;
  to: string | null;
}

/** What is decided about columns as it counts on a day (ISO date): a factor and an offset of other days are no part of it, and dates are settled. */
export function inEffect(mappings: Mappings, day: string | null): Mappings {
  return Object.fromEntries(
    Object.entries(mappings).map(([column, { from, to, ...mapping }]) => {
      if (covers({ from, to }, day)) return [column, mapping];
      const { factor: _, offset: __, ...rest } = mapping;
      return [column, rest];
    }),
  );
}

/** Without dates it counts always; with dates, on no day that is not known. */
function covers({ from, to }: Pick<ChannelMapping, 'from' | 'to'>, day: string | null): boolean {
  if (!from && !to) return true;
  return day !== null && (!from || from <= day) && (!to || day <= to);
}

/**
 * What is decided about a log's columns: for its device, and before that for the file itself, as it counts on the day of the first pull that lists
 * the file; null where nothing is.
 */
export function decidedChannels(bundle: Bundle, device: string, file: string): Mappings | null {
  const decided = allDecided(bundle, device, file);
  const entries = Object.values(decided);
  if (entries.length === 0) return null;
  return entries.some(({ from, to }) => from || to) ? inEffect(decided, dayOfFile(bundle, file)) : decided;
}

const allDecided = ({ channels }: Bundle, device: string, file: string): Mappings => ({
  ...channels?.[device],
  ...channels?.[`file:${file}`],
});

function dayOfFile(bundle: Bundle, file: string): string | null {
  const own = bundle.pulls.filter(({ logs, startUnknown }) => !startUnknown && logs.some((log) => log.file === file));
  const first = own.reduce<Pull | null>((a, b) => (a && Date.parse(a.startedAt) <= Date.parse(b.startedAt) ? a : b), null);
  if (!first) return null;
  const cell = (bundle.cells ?? []).find(({ id }) => id === first.cell) ?? bundle.cell ?? bundle.cells?.[0];
  return new Date(wallMs(first.startedAt, knownZone(cell?.timeZone))).toISOString().slice(0, 10);
}

/** The calibrations that were put right of whatever a pull's logs were read by. */
export function calibrationsOf(bundle: Bundle, { logs }: Pull): Calibration[] {
  return logs.flatMap(({ device, file }) => {
    const said = allDecided(bundle, device, file);
    return Object.entries(decidedChannels(bundle, device, file) ?? {}).flatMap(([column, { factor, offset, unit, ignore }]) =>
      ignore || ((factor ?? 1) === 1 && (offset ?? 0) === 0)
        ? []
        : [
            {
              device,
              column,
              factor: factor ?? 1,
              offset: offset ?? 0,
              unit: unit ?? null,
              from: said[column]!.from ?? null,
              to: said[column]!.to ?? null,
            },
          ],
    );
  });
}
