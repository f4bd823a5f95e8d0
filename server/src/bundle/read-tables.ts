import type { Bundle } from '@gezeit/contract';
import { readLog, type LogTable } from '@gezeit/core';

/** Reads every log that a pull lists. */
export function readTables(
  bundle: Bundle,
  files: ReadonlyMap<string, Uint8Array>,
  onFile?: (done: number, of: number, file: string) => void,
): Map<string, LogTable> {
  const devices = new Map(bundle.pulls.flatMap(({ logs }) => logs.map(({ file, device }) => [file, device] as const)));
  const tables = new Map<string, LogTable>();
  for (const [file, device] of devices) {
    onFile?.(tables.size, devices.size, file);
    tables.set(file, readLog(files.get(file)!, { file, device, channels: bundle.channels?.[device] }));
  }
  return tables;
}
