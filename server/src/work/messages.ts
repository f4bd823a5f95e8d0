import type { DayHappening, ImportState } from '@gezeit/contract';
import type { DeviceFileMade } from '../day/device.js';
import type { ImportChoice, ImportOutcome } from '../store/import-bundle.js';
import type { StoredAnalysis } from '../store/findings-store.js';

/** What the worker can be asked to do. */
export type WorkRequest =
  | { kind: 'import'; path: string; by: string; choice: ImportChoice }
  | { kind: 'analyse'; programmeId: string; withCurves: boolean }
  | { kind: 'keep-file'; programmeId: string; day: string; file: DeviceFileMade };

export interface PlainError {
  code: string;
  message: string;
  nextStep: string;
  place: { file?: string; row?: number; column?: string };
}

export type WorkResult =
  | { kind: 'import'; outcome: ImportOutcome }
  | { kind: 'analyse'; analysis: StoredAnalysis }
  | { kind: 'keep-file'; taken: Extract<DayHappening, { kind: 'file-taken' }> | null };

/** What the worker answers, any number of progress messages and one end. */
export type WorkMessage =
  | { type: 'ready' }
  | { type: 'progress'; step: ImportState['step']; share: number; detail: string }
  | { type: 'done'; result: WorkResult }
  | { type: 'refused'; error: PlainError }
  | { type: 'broken'; stack: string };
