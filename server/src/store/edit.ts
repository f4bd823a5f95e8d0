import { beyondLimits, EDITABLE_PARTS, type Bundle, type Edit } from '@gezeit/contract';
import { conflict, GezeitError } from '@gezeit/core';
import type { Database } from '../database/database.js';
import { hasResults, markAfterwards } from './after-results.js';
import { recordChange } from './changes.js';
import { findProgramme, loadBundle, loadBundleOf } from './load-bundle.js';
import { readPart, sameValue, writePart } from './parts.js';

/**
 * Changes one part of a programme, kept so that it can be undone. Nothing is stored unless the whole bundle still makes sense.
 * @throws GezeitError `changed-meanwhile` where the part is not any more what it was where the change was made.
 */
export async function editPart(database: Database, programmeId: string, { part, before, value, what }: Edit, by: string): Promise<void> {
  await database.write(async (manager) => {
    const row = await findProgramme(manager, programmeId);
    const original = await loadBundleOf(manager, row);
    const now = await readPart(manager, row, original, part);
    if (!sameValue(part, now, before))
      throw conflict(
        'changed-meanwhile',
        'This was changed in another window meanwhile.',
        'What stands there now is shown; make the change again.',
      );
    const parsed = EDITABLE_PARTS[part].parse(value);
    const marked = (await hasResults(manager, programmeId)) ? markAfterwards(part, now, parsed, by) : parsed;
    if (sameValue(part, now, marked)) return;
    await writePart(manager, programmeId, part, marked as never);
    refuseGrowing(await loadBundle(manager, programmeId), original);
    await recordChange(manager, programmeId, by, { kind: 'edit', subject: what, part, before: now, after: marked });
  });
}

/** A change may not take a programme over what one may hold; what is over it from before stays editable. */
function refuseGrowing(after: Bundle, before: Bundle): void {
  const beyond = beyondLimits(after);
  if (beyond && !beyondLimits(before)) throw new GezeitError('too-large', `${beyond}.`, 'Split it, or shorten it.');
}
