import type { BundleFrame, DaySpec, DriveSpec, LoggingDevice, ScheduledPull } from '@gezeit/core/simulate';
import type { DemoBench } from './airbox-bench.js';

/** A demo programme: how its day was driven, what it is about, and what is true. */
export interface DemoProgramme {
  folder: string;
  spec: DaySpec;
  frame: BundleFrame;
  devices: LoggingDevice[];
  /** What was found on the bench before the day; none where it was not taken apart. */
  bench?: DemoBench;
  /** Laps and long runs after the pulls. */
  drives?: DemoDrive[];
}

/** A drive of the demo: whose setup, when, and how nature had it. */
export interface DemoDrive {
  setup: string;
  startedAt: string;
  note: string;
  drive: DriveSpec;
}

export const CALM_WEATHER = { temperatureK: 0.8, pressurePa: 40, humidity: 0.015 };

/** Pulls from letters; a small letter is a conditioning pull, and each letter has its own rest before it. */
export function schedule(letters: string, restMin: (letter: string) => number, swapMin: number): ScheduledPull[] {
  const list = [...letters];
  return list.map((letter, i) => {
    const setup = letter.toUpperCase();
    const swapped = i > 0 && list[i - 1]!.toUpperCase() !== setup;
    return { setup, kind: letter === setup ? 'measured' : 'conditioning', afterMin: i === 0 ? 6 : swapped ? swapMin : restMin(setup) };
  });
}
