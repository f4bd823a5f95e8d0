import type { AlignmentByHand, LogReference, Pull as PullFields, PullDetail } from '@gezeit/contract';
import { missing, type ReadReport } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import type { Database } from '../database/database.js';
import { Log, Pull, type ChangeRow } from '../database/entities.js';
import { recordChange } from './changes.js';

/**
 * Moves a log of a pull against the others by hand, or gives it back to what the logs show; kept as a change that can be undone.
 * @param alignments of the pull as it is measured now: against which log's clock the hand has moved it.
 * @throws GezeitError `not-found`.
 */
export async function alignByHand(
  database: Database,
  programmeId: string,
  key: string,
  { file, offsetS }: AlignmentByHand,
  alignments: PullDetail['alignments'],
  by: string,
): Promise<void> {
  await database.write(async (manager) => {
    const row = await manager.findOneBy(Pull, { programmeId, key });
    const { logs = [], ...rest } = row ? (JSON.parse(row.body) as PullFields) : {};
    const lead = alignments.find(({ how }) => how === 'first')?.file;
    if (!row || !logs.some((log) => log.file === file) || lead === undefined || lead === file)
      throw missing(`Pull ${key} has no log ${file} that can be moved.`, 'Open the programme again.');
    const after =
      offsetS === null
        ? logs.map((log) => (log.file === file ? asRead(log) : log))
        : await moved(manager, programmeId, logs, lead, file, offsetS, alignments);
    await manager.update(Pull, { id: row.id }, { body: JSON.stringify({ ...rest, logs: after }) });
    await recordChange(manager, programmeId, by, {
      kind: 'log-aligned',
      subject: `${key}: ${file}`,
      before: { key, logs },
      after: offsetS,
    });
  });
}

/** Offsets are kept between the files' own clocks and from the first log that the pull lists, whichever log leads. */
async function moved(
  manager: EntityManager,
  programmeId: string,
  logs: LogReference[],
  lead: string,
  file: string,
  offsetS: number,
  alignments: PullDetail['alignments'],
): Promise<LogReference[]> {
  const shiftOf = new Map<string, number>();
  for (const log of logs) {
    const row = await manager.findOneOrFail(Log, { where: { programmeId, file: log.file }, select: { report: true } });
    shiftOf.set(log.file, (JSON.parse(row.report) as ReadReport).recordings?.[log.recording ?? 0]?.shiftS ?? 0);
  }
  const listed = logs[0]!.file;
  const own = (name: string, offset: number) => offset - shiftOf.get(name)! + shiftOf.get(lead)!;
  const ofListed = listed === lead ? 0 : own(listed, alignments.find((entry) => entry.file === listed)?.offsetS ?? 0);
  return logs.map((log) => {
    if (log.file === lead && lead !== listed) return { ...log, offsetS: -ofListed };
    if (log.file !== file) return log;
    const { asRead: before, ...stated } = log;
    const kept = before ?? { offsetS: stated.offsetS ?? null, how: stated.how ?? null, withinS: stated.withinS ?? null };
    return { ...stated, offsetS: own(file, offsetS) - ofListed, how: 'hand', withinS: null, asRead: kept };
  });
}

function asRead({ asRead: before, ...log }: LogReference): LogReference {
  return before ? { ...log, ...before } : { ...log, offsetS: null, how: null, withinS: null };
}

/** Puts the logs of a pull back as they were listed. */
export async function undoAlignment(manager: EntityManager, { programmeId, before }: ChangeRow): Promise<void> {
  const { key, logs } = JSON.parse(before) as { key: string; logs: LogReference[] };
  const row = await manager.findOneByOrFail(Pull, { programmeId, key });
  await manager.update(Pull, { id: row.id }, { body: JSON.stringify({ ...(JSON.parse(row.body) as object), logs }) });
}
