import { writeTransaction } from '../database/write-transaction.js';
import { EDITABLE_PARTS, type Bundle, type Edit, type EditablePart, type Setup } from '@gezeit/contract';
import { GezeitError } from '@gezeit/core';
import type { DataSource, EntityManager } from 'typeorm';
import { Pull } from '../database/entities.js';
import { recordChange } from './changes.js';
import { findProgramme, loadBundle } from './load-bundle.js';
import { editSubject, readPart, sameValue, writePart } from './parts.js';

/**
 * Changes one part of a programme, kept so that it can be undone. Nothing is stored unless the whole bundle still makes sense.
 * @throws GezeitError `changed-meanwhile` where the part is not any more what it was where the change was made.
 */
export async function editPart(source: DataSource, programmeId: string, { part, before, value, what }: Edit, by: string): Promise<void> {
  await writeTransaction(source, async (manager) => {
    await findProgramme(manager, programmeId);
    const now = await readPart(manager, programmeId, part);
    if (!sameValue(part, now, before))
      throw new GezeitError(
        'changed-meanwhile',
        'This was changed in another window meanwhile.',
        'What stands there now is shown; make the change again.',
      );
    const parsed = EDITABLE_PARTS[part].parse(value);
    const marked = (await hasResults(manager, programmeId)) ? markAfterwards(part, now, parsed) : parsed;
    if (sameValue(part, now, marked)) return;
    await writePart(manager, programmeId, part, marked as never);
    await loadBundle(manager, programmeId);
    await recordChange(manager, programmeId, by, { kind: 'edit', subject: editSubject(part, what), before: now, after: marked });
  });
}

/** Whether measured pulls exist: whatever is asked or added from then on was asked afterwards. */
async function hasResults(manager: EntityManager, programmeId: string): Promise<boolean> {
  const pulls = await manager.find(Pull, { where: { programmeId }, select: { body: true } });
  return pulls.some(({ body }) => (JSON.parse(body) as { kind: string }).kind === 'measured');
}

interface Marked {
  id: string;
  afterwards?: boolean | null;
}

/** Marks what is new as added after results were seen; what was there keeps its mark, whatever the change says. */
function markNew<T extends Marked>(before: readonly T[] | null | undefined, after: readonly T[]): T[] {
  const known = new Map((before ?? []).map((entry) => [entry.id, entry]));
  return after.map((entry) => {
    const earlier = known.get(entry.id);
    if (!earlier) return { ...entry, afterwards: true };
    return earlier.afterwards === undefined ? entry : { ...entry, afterwards: earlier.afterwards };
  });
}

function markAfterwards(part: EditablePart, before: unknown, value: unknown): unknown {
  if (part === 'setups') return markNew(before as Setup[], value as Setup[]);
  if (part !== 'programme') return value;
  const [old, next] = [before as Bundle['programme'], value as Bundle['programme']];
  return {
    ...next,
    ...(next.questions ? { questions: markNew(old.questions, next.questions) } : {}),
    ...(next.claims ? { claims: markNew(old.claims, next.claims) } : {}),
  };
}
