import type { Bundle, Choices, ChoicesExtent, Claim, ClaimFinding, Curves, DayHappening } from '@gezeit/contract';
import type { MessagePort } from 'node:worker_threads';
import type { Analysed } from '../analysis/analysed.js';
import type { ProgrammeState } from '../analysis/programme-state.js';
import type { Card } from '../board/card.js';
import type { ImportOutcome } from '../import/import-bundle.js';
import type { ImportOrder } from '../import/import-jobs.js';
import type { StageRead } from '../staging/stage-files.js';
import type { KeepFileTask } from '../day/day-services.js';

interface ImportTask extends ImportOrder {
  /** Where progress is told. */
  port: MessagePort;
}

export interface RereadTask {
  programmeId: string;
  bundle: Bundle;
}

interface StageTask {
  root: string;
  id: string;
  port: MessagePort;
}

/** What a worker can be asked to do: its task and what comes out. */
export interface Tasks {
  import: { task: ImportTask; result: ImportOutcome };
  readStage: { task: StageTask; result: StageRead };
  writeStaged: { task: Omit<StageTask, 'port'> & { out: string }; result: null };
  /** Answers the programme to which the files were added. */
  addStaged: { task: StageTask & { by: string }; result: string };
  rereadLogs: { task: RereadTask; result: null };
  keepFile: { task: KeepFileTask; result: Extract<DayHappening, { kind: 'file-taken' }> | null };
  analyse: { task: ProgrammeState; result: Analysed };
  curves: { task: ProgrammeState; result: Curves };
  choices: { task: { state: ProgrammeState; extent: ChoicesExtent }; result: Choices };
  /** The digest under which the card is kept. */
  card: { task: { id: string; digest: string }; result: Card };
  claim: { task: { state: ProgrammeState; claim: Claim }; result: ClaimFinding };
}

export type TaskName = keyof Tasks;

/** A task as it is sent to a thread: with the file of the database that it is about. */
export interface Ordered<N extends TaskName> {
  database: string;
  task: Tasks[N]['task'];
}
