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

/** A day as those beside it see it. */
export interface NeighbourDay extends OngoingDay {
  /** Whether it is under way with its car on the rollers. */
  readonly isOnRollers: boolean;
  /** What it listens to. */
  readonly listensTo: readonly string[];
}

/** The days beside one. */
export interface Neighbours {
  /** A car comes on the rollers: those of other days that listen to the same devices leave them. */
  leaveRollersFor(day: NeighbourDay): Promise<void>;
  /** A day has begun or ended: those beside it say so. */
  lookAround(day: NeighbourDay): Promise<void>;
}
