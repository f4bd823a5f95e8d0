import type { DayHappening } from '@gezeit/contract';
import type { Logger } from 'pino';
import type { AnalysisRoom, AnalysisWork } from '../analysis/analysis.js';
import type { DeviceFileMade } from './device.js';

/** A file of a device, to be kept for a day. */
export interface KeepFileTask {
  programmeId: string;
  day: string;
  file: DeviceFileMade;
}

/** What a day needs of the server. */
export interface DayServices extends AnalysisRoom {
  /** Keeps files off the event loop; null where a file is known already. */
  work: AnalysisWork & { keepFile(task: KeepFileTask): Promise<Extract<DayHappening, { kind: 'file-taken' }> | null> };
  log: Logger;
}
