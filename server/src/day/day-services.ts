import type { Logger } from 'pino';
import type { AnalysisRoom } from '../analysis/analysis.js';
import type { OngoingDay } from './ongoing-day.js';

/** What a day needs of the server. */
export interface DayServices extends AnalysisRoom {
  log: Logger;
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
