import { closeSync, fsyncSync, openSync } from 'node:fs';

/** Waits until the disk has a file, or the names in a folder. */
export function syncFile(path: string): void {
  const handle = openSync(path, 'r');
  try {
    fsyncSync(handle);
  } finally {
    closeSync(handle);
  }
}
