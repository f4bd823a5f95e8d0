import type { DeviceState } from '@gezeit/contract';

/** One moment of a device: values in the units kept inside by quantity, pressure drops as `pressureDrop/section`. */
export interface DeviceSample {
  /** On the day's clock, ms since 1970. */
  atMs: number;
  values: ReadonlyMap<string, number>;
}

/** A file that a device finished writing: its bytes as they are, and when its own clock says it was made. */
export interface DeviceFileMade {
  name: string;
  bytes: Uint8Array;
  madeAtMs: number;
}

/** Where a device hands on what it has. Every call may come at any time between start and stop. */
export interface DeviceSink {
  samples(samples: DeviceSample[]): void;
  /** Resolves once the file is kept; until then the device must be able to hand it on again. */
  file(file: DeviceFileMade): Promise<void>;
  state(state: DeviceState['state'], detail: string): void;
  /** It cannot go on: told, logged, and no more than that. */
  fault(error: unknown): void;
  /** The day's clock, ms since 1970. */
  now(): number;
  /** Sets it, for a device that keeps a clock of its own. */
  clock(nowMs: number, speed: number): void;
  /** Kept over a restart of the server, and given back when the device is made again. */
  remember(memory: unknown): void;
}

/** A device of the cell, real or simulated: it only hands on, and controls no machine. */
export interface Device {
  start(): Promise<void>;
  stop(): Promise<void>;
}
