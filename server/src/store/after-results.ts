import type { Bundle, EditablePart, Programme, Question, Setup } from '@gezeit/contract';
import { isDeepStrictEqual } from 'node:util';
import type { EntityManager } from 'typeorm';
import { Pull } from '../database/entities.js';

/** Whether measured pulls exist: whatever is asked, added or changed from then on was so afterwards. */
export async function hasResults(manager: EntityManager, programmeId: string): Promise<boolean> {
  const pulls = await manager.find(Pull, { where: { programmeId }, select: { body: true } });
  return pulls.some(({ body }) => (JSON.parse(body) as { kind: string }).kind === 'measured');
}

/** What decides how an answer reads: a change of it after the results is told beside the answers. */
const OF_THE_PROGRAMME = ['metric', 'bandRpm', 'smallestGainPct', 'correction'] as const;
const OF_A_QUESTION = ['metric', 'bandRpm', 'smallest', 'unit', 'start', 'setups'] as const;

/** A part as it is stored where results are known: what is new is marked, what was there keeps its mark, changed terms are listed. */
export function markAfterwards(part: EditablePart, before: unknown, value: unknown, by: string): unknown {
  if (part === 'setups') return markNew(before as Setup[], value as Setup[]);
  if (part !== 'programme') return value;
  const [old, next] = [before as Bundle['programme'], value as Bundle['programme']];
  const changed = listChanges(old, next, by);
  return {
    ...next,
    ...(next.questions ? { questions: markNew(old.questions, next.questions) } : {}),
    ...(next.claims ? { claims: markNew(old.claims, next.claims) } : {}),
    ...(changed.length > 0 ? { changedAfterwards: changed } : {}),
  };
}

interface Marked {
  id: string;
  afterwards?: boolean | null;
}

function markNew<T extends Marked>(before: readonly T[] | null | undefined, after: readonly T[]): T[] {
  const known = new Map((before ?? []).map((entry) => [entry.id, entry]));
  return after.map((entry) => {
    const earlier = known.get(entry.id);
    if (!earlier) return { ...entry, afterwards: true };
    return earlier.afterwards === undefined ? entry : { ...entry, afterwards: earlier.afterwards };
  });
}

type Listed = NonNullable<Programme['changedAfterwards']>[number];

function listChanges(old: Programme, next: Programme, by: string): Listed[] {
  const at = new Date().toISOString();
  const differs = (a: unknown, b: unknown) => !isDeepStrictEqual(a ?? null, b ?? null);
  const own = OF_THE_PROGRAMME.filter((key) => differs(old[key], next[key])).map((what): Listed => ({ what, at, by }));
  const asked = (next.questions ?? []).flatMap((question: Question): Listed[] => {
    const earlier = old.questions?.find(({ id }) => id === question.id);
    // One that was asked afterwards is marked as a whole.
    if (!earlier || earlier.afterwards) return [];
    const keys = OF_A_QUESTION.filter((key) => differs(earlier[key], question[key]));
    return keys.map((what) => ({ what, question: question.id, at, by }));
  });
  const fresh = [...own, ...asked];
  const same = (a: Listed, b: Listed) => a.what === b.what && (a.question ?? null) === (b.question ?? null);
  return [...(old.changedAfterwards ?? []).filter((entry) => !fresh.some((other) => same(entry, other))), ...fresh];
}
