import type { Bundle, DayHappening } from '@gezeit/contract';
import type { DayState } from '@gezeit/core';
import type { DayServices } from './day-services.js';
import type { DeviceFileMade } from './device.js';
import type { LiveChannels } from './live-channels.js';

/** A day as those see it that watch one side of it: where it stands, what its cell shows, and a way to say that something happened. */
export interface OngoingDay {
  readonly programmeId: string;
  readonly services: DayServices;
  readonly bundle: Bundle;
  readonly state: DayState;
  readonly live: LiveChannels;
  /** The day's clock, ms: a device's own, else this machine's. */
  readonly nowMs: number;
  /** Resolves when everything that was on its way is kept. */
  settled(): Promise<unknown>;
  /** Adds what happened by itself, at a moment of the day's clock; refused quietly where somebody was faster by key. */
  happen(what: DayHappening, atMs?: number): Promise<void>;
  /** Keeps a file of a device. */
  takeFile(file: DeviceFileMade): Promise<unknown>;
  /** Shows every window that follows how the day stands. */
  changed(): void;
}
