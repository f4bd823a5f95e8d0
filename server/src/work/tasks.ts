import type { Curves, DayHappening, ImportState } from '@gezeit/contract';
import type { MessagePort } from 'node:worker_threads';
import type { Analysed } from '../analysis/analysed.js';
import type { ProgrammeState } from '../analysis/programme-state.js';
import type { DeviceFileMade } from '../day/device.js';
import type { ImportChoice, ImportOutcome } from '../store/import-bundle.js';

/** How far an import has come. */
export interface ImportProgress {
  step: ImportState['step'];
  share: number;
  detail: string;
}

export interface ImportTask {
  path: string;
  by: string;
  choice: ImportChoice;
  /** Where progress is told. */
  port: MessagePort;
}

export interface KeepFileTask {
  programmeId: string;
  day: string;
  file: DeviceFileMade;
}

/** What a worker can be asked to do: its task and what comes out. */
export interface Tasks {
  import: { task: ImportTask; result: ImportOutcome };
  keepFile: { task: KeepFileTask; result: Extract<DayHappening, { kind: 'file-taken' }> | null };
  analyse: { task: ProgrammeState; result: Analysed };
  curves: { task: ProgrammeState; result: Curves };
}

export type TaskName = keyof Tasks;
