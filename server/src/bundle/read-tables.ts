import type { Bundle, ChannelMapping } from '@gezeit/contract';
import { readLog, type LogTable } from '@gezeit/core';

/** Every log that a pull lists, with the device that wrote it. */
export function devicesOf(bundle: Bundle): Map<string, string> {
  return new Map(bundle.pulls.flatMap(({ logs }) => logs.map(({ file, device }) => [file, device] as const)));
}

/** What is decided about a log's columns: for its device, and before that for the file itself; null where nothing is. */
export function channelsOf({ channels }: Bundle, device: string, file: string): Record<string, ChannelMapping> | null {
  const decided = { ...channels?.[device], ...channels?.[`file:${file}`] };
  return Object.keys(decided).length > 0 ? decided : null;
}

/** Reads one log as the bundle says. */
export function readTable(bundle: Bundle, file: string, device: string, bytes: Uint8Array): LogTable {
  return readLog(bytes, { file, device, channels: channelsOf(bundle, device, file) });
}

/** Reads every log that a pull lists. */
export function readTables(bundle: Bundle, files: { read(file: string): Uint8Array }): Map<string, LogTable> {
  return new Map([...devicesOf(bundle)].map(([file, device]) => [file, readTable(bundle, file, device, files.read(file))]));
}
