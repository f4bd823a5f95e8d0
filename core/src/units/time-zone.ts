import type { Bundle } from '@gezeit/contract';

const asked = new Map<string, boolean>();

/** Whether a time zone is called so (IANA, such as Europe/Oslo), as far as this machine knows them. */
export function isTimeZone(name: string): boolean {
  let is = asked.get(name);
  if (is === undefined) {
    try {
      is = new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone !== '';
    } catch {
      is = false;
    }
    asked.set(name, is);
  }
  return is;
}

/** A time zone where it is one; null where none is named, or one that nobody knows: a bundle may hold any text. */
export const knownZone = (name: string | null | undefined): string | null => (name != null && isTimeZone(name) ? name : null);

/** The zone in which the clocks of a programme's cell run; of several cells, that of the first. */
export const zoneOf = ({ cell, cells }: Pick<Bundle, 'cell' | 'cells'>): string | null => knownZone((cells?.[0] ?? cell)?.timeZone);
