import type { ChannelMapping, DeviceProfile, ReadFile } from '@gezeit/contract';
import type { GezeitError } from '../errors.js';
import type { Gearbox } from '../pull/gear-of.js';
import type { HandPlacing } from './by-hand.js';
import type { GatherFile } from './timed.js';

/** A loose file: its bytes, and where it stood. */
export interface LooseFile {
  file: string;
  bytes: Uint8Array;
  sha256: string;
  /** What it was turned into where it is no text: a sheet of a workbook, as a table parted by tabs. */
  sheet?: { name: string; text: Uint8Array } | null;
  /** It could not be opened at all: why. */
  refused?: GezeitError | null;
}

export interface ReadingOptions {
  profiles?: readonly DeviceProfile[];
  /** What was decided by hand, by device and by "file:…". */
  channels?: Readonly<Record<string, Record<string, ChannelMapping>>> | null;
  /** IANA name of the zone in which the clocks ran; null where nobody says it. */
  timeZone?: string | null;
  /** In which order dates stand that could be read both ways, where somebody has said it. */
  dateOrder?: 'day-first' | 'month-first' | null;
  /** What the car that was driven has for a gearbox, where it is known. */
  gearbox?: Gearbox;
  /** Pulls that stand already, and where sweeps were put by hand. */
  hand?: HandPlacing;
}

/** One file as it was read, with its table. */
export interface ReadLoose {
  report: ReadFile;
  /** Null where it can take part in no pull: its first problem says why. */
  gather: GatherFile | null;
  /** Headers of two time columns that are at odds, of which somebody must say the right one. */
  clocks?: [string, string] | null;
}
