import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { readingSchema, stagedDecisionsSchema, stagedHintsSchema, standingSchema, type StagedDecisions } from '@gezeit/contract';
import { conflict, missing } from '@gezeit/core';
import { z } from 'zod';

/** What stands in a stage's folder: `files/` as they came, what was decided, and what the files were taken for. */
const stageSchema = z.object({
  receivedAt: z.string(),
  by: z.string(),
  lastModified: z.string().nullable(),
  keptAs: z.string().nullable(),
  /** The programme to which the files are added; null where they become one. */
  into: z.string().nullable().default(null),
  decisions: stagedDecisionsSchema,
});
export type Stage = z.infer<typeof stageSchema>;
const stageReadSchema = z.object({ reading: readingSchema, hints: stagedHintsSchema, standing: standingSchema.nullable().default(null) });
/** What the files of a stage were taken for, and the programme to which they are added as it stood then. */
export type StageRead = z.infer<typeof stageReadSchema>;

/** The staged folders of a data folder: what was dropped and is not kept yet. It outlives the server. */
export class StageFiles {
  constructor(readonly root: string) {}

  folder(id: string): string {
    // An id is ours, never a path.
    if (!/^[0-9a-f-]{36}$/.test(id)) throw gone();
    return join(this.root, id);
  }

  files(id: string): string {
    return join(this.folder(id), 'files');
  }

  ids(): string[] {
    return existsSync(this.root) ? readdirSync(this.root).filter((id) => existsSync(join(this.root, id, 'stage.json'))) : [];
  }

  /** @throws GezeitError `not-found`. */
  stage(id: string): Stage {
    const file = join(this.folder(id), 'stage.json');
    if (!existsSync(file)) throw gone();
    return stageSchema.parse(JSON.parse(readFileSync(file, 'utf8')));
  }

  keepStage(id: string, stage: Stage): void {
    mkdirSync(this.folder(id), { recursive: true });
    writeWhole(join(this.folder(id), 'stage.json'), stage);
  }

  /** What the files were taken for; null before they are read. */
  read(id: string): StageRead | null {
    const file = join(this.folder(id), 'reading.json');
    return existsSync(file) ? stageReadSchema.parse(JSON.parse(readFileSync(file, 'utf8'))) : null;
  }

  /** The same where it must be there. @throws GezeitError `still-reading`. */
  readWhole(id: string): StageRead {
    const read = this.read(id);
    if (!read) throw conflict('still-reading', 'The files are still being read.', 'Wait until they are.');
    return read;
  }

  keepRead(id: string, read: StageRead): void {
    writeWhole(join(this.folder(id), 'reading.json'), read);
  }

  decisions(id: string): StagedDecisions {
    return this.stage(id).decisions;
  }

  remove(id: string): void {
    rmSync(this.folder(id), { recursive: true, force: true });
  }
}

/** Written beside and put in place at once: a server that ends in between leaves the one before. */
function writeWhole(file: string, value: unknown): void {
  writeFileSync(`${file}.new`, JSON.stringify(value));
  renameSync(`${file}.new`, file);
}

const gone = () => missing('These files are no longer here.', 'They were kept or thrown away: drop them again.');
