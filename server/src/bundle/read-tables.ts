import type { Bundle } from '@gezeit/contract';
import { decidedChannels, readLog, type LogTable } from '@gezeit/core';

/** Every log that a pull lists, with the device that wrote it. */
export function devicesOf(bundle: Bundle): Map<string, string> {
  return new Map(bundle.pulls.flatMap(({ logs }) => logs.map(({ file, device }) => [file, device] as const)));
}

/** Reads one log as the bundle says. */
export function readTable(bundle: Bundle, file: string, device: string, bytes: Uint8Array): LogTable {
  return readLog(bytes, { file, device, channels: decidedChannels(bundle, device, file) });
}

/** Reads every log that a pull lists. */
export function readTables(bundle: Bundle, files: { read(file: string): Uint8Array }): Map<string, LogTable> {
  return new Map([...devicesOf(bundle)].map(([file, device]) => [file, readTable(bundle, file, device, files.read(file))]));
}
