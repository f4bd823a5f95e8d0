import { GezeitError } from '@gezeit/core';

/** What a database or a file system says when it cannot store, and what that means for who asked. */
const FAILURES: { codes: RegExp; make: () => GezeitError }[] = [
  {
    codes: /^(SQLITE_FULL|ENOSPC|EDQUOT)/,
    make: () =>
      new GezeitError(
        'disk-full',
        'The disk that holds the data folder is full: nothing was stored.',
        'Free some space, then do it again.',
        {},
        'no-room',
      ),
  },
  {
    codes: /^(SQLITE_READONLY|SQLITE_CANTOPEN|SQLITE_PERM|EROFS|EACCES|EPERM)/,
    make: () =>
      new GezeitError(
        'read-only',
        'The data folder cannot be written to: nothing was stored.',
        'Allow Gezeit to write there, then do it again.',
        {},
        'unavailable',
      ),
  },
  {
    codes: /^(SQLITE_IOERR|EIO)/,
    make: () =>
      new GezeitError(
        'disk-failure',
        'The disk that holds the data folder reported an error: nothing was stored.',
        'Check the disk, then do it again.',
        {},
        'unavailable',
      ),
  },
  {
    codes: /^(SQLITE_BUSY|SQLITE_LOCKED)/,
    make: () =>
      new GezeitError(
        'busy',
        'Something large is being stored just now: nothing was changed.',
        'Do it again in a moment.',
        {},
        'unavailable',
      ),
  },
  {
    codes: /^(SQLITE_CORRUPT|SQLITE_NOTADB)/,
    make: () =>
      new GezeitError(
        'damaged',
        'The database of the data folder is damaged.',
        'Stop Gezeit and put a backup in place: gezeit restore FILE.',
        {},
        'unavailable',
      ),
  },
];

/** A failure of storing in words that say what to do; null where an error is of another kind. */
export function storageFailure(error: unknown): GezeitError | null {
  const code = codeOf(error);
  const known = code === null ? undefined : FAILURES.find(({ codes }) => codes.test(code));
  return known ? known.make() : null;
}

/** The code of a driver's or the system's error, also inside the one that the mapper makes of it. */
function codeOf(error: unknown): string | null {
  if (typeof error !== 'object' || error === null) return null;
  const { code, driverError } = error as { code?: unknown; driverError?: unknown };
  return typeof code === 'string' ? code : codeOf(driverError);
}
