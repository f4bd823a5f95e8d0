import type { EditablePart, PartValue, ProgrammeChanged, ProgrammeView } from '@gezeit/contract';
import { ref, shallowRef, type ShallowRef } from 'vue';
import { answerFailure, api, type ApiFailure } from '../shared/api/client.js';
import { usePerson } from '../shared/person-store.js';

/** Edits of parts of the open programme, one after the other, and what is known of those that are on their way. */
export function programmeEdits(stored: ShallowRef<ProgrammeView | null>, show: (next: ProgrammeChanged) => void) {
  const person = usePerson();
  let editing: Promise<unknown> = Promise.resolve();
  /** What the newest edit failed by; shown above the page. */
  const editFailure = shallowRef<ApiFailure | null>(null);
  /** Edits that are not stored yet. */
  const saving = ref(0);
  /** Edits whose answer is not there yet: stored or not. */
  const awaited = ref(0);

  /** What every part holds now, as an edit names it. */
  function partOf<P extends EditablePart>(part: P): PartValue<P> {
    const { bundle, vehicleId, cellIds } = stored.value!;
    const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
    const special: Record<string, unknown> = { vehicleId, cellIds, cells };
    return (part in special ? special[part] : (bundle[part as keyof typeof bundle] ?? null)) as PartValue<P>;
  }

  /**
   * Changes a part of the open programme, one change after the other: each starts from what the one before has left. A failure is shown,
   * and what stands on the server is read again.
   */
  function edit<P extends EditablePart>(part: P, what: string, next: (value: PartValue<P>) => PartValue<P>): Promise<boolean> {
    const id = stored.value?.id;
    const run = async (): Promise<boolean> => {
      if (!id || !(await person.ensure()) || stored.value?.id !== id) return false;
      const before = partOf(part);
      // A copy without proxies: what a change leaves of it is sent as JSON anyway.
      const value = next(JSON.parse(JSON.stringify(before)) as PartValue<P>);
      if (JSON.stringify(value) === JSON.stringify(before)) return true;
      try {
        const answer = await api.edit(id, { part, before, value, what: what.slice(0, 200) }, onStored);
        editFailure.value = null;
        if (stored.value?.id === id) show(answer);
        return true;
      } catch (error) {
        editFailure.value = answerFailure(error);
        const fresh = await api.programme(id).catch(() => null);
        if (fresh && stored.value?.id === id) stored.value = fresh;
        return false;
      }
    };
    saving.value += 1;
    awaited.value += 1;
    let isSaving = true;
    const onStored = () => {
      if (isSaving) saving.value -= 1;
      isSaving = false;
    };
    const done = editing.then(run, run).finally(() => {
      onStored();
      awaited.value -= 1;
    });
    editing = done;
    return done;
  }

  /** Waits until every edit so far has been stored, or has failed. */
  const edited = () =>
    editing.then(
      () => undefined,
      () => undefined,
    );

  return { edit, edited, editFailure, saving, awaited };
}
