import type { CheckedAgain, FixedEntry, SheetSource } from '@gezeit/contract';
import { computed, ref, shallowRef, watch, type WritableComputedRef } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import { api, ApiFailure } from '../../shared/api/client.js';

/** The state of the answers that is not fixed. */
export const NOW = 'now';

/** What the sheets are made of, of the answers as they are or as they were fixed; `chosen` is the fixed one's key, `wanted` whether there is a sheet. */
export function useSheetSource(chosen: WritableComputedRef<string>, wanted: () => boolean) {
  const programme = useProgramme();
  const source = shallowRef<SheetSource | null>(null);
  const shownFixed = shallowRef<FixedEntry | null>(null);
  const failure = shallowRef<ApiFailure | null>(null);
  const checked = shallowRef<CheckedAgain | null>(null);
  const checking = ref(false);
  let asking: AbortController | null = null;

  const programmeId = () => programme.view!.id;
  /** What has changed since, as it is known by now. */
  const entry = computed(() => programme.view!.fixed.find(({ id }) => id === shownFixed.value?.id) ?? shownFixed.value);

  async function read(): Promise<void> {
    asking?.abort();
    const controller = (asking = new AbortController());
    failure.value = null;
    checked.value = null;
    try {
      if (chosen.value === NOW) {
        const fresh = await api.sheet(programmeId(), controller.signal);
        if (controller.signal.aborted) return;
        shownFixed.value = null;
        source.value = fresh;
        return;
      }
      const answer = await api.fixed(programmeId(), chosen.value, controller.signal);
      if (controller.signal.aborted) return;
      shownFixed.value = answer.entry;
      source.value = answer.fixed.sheet;
    } catch (error) {
      if (!controller.signal.aborted) failure.value = ApiFailure.of(error, 'The sheet could not be read.', 'Reload the page.');
    }
  }
  // A fixed one does not follow what is changed: that is what it is for. Another one than was shown is not shown in its place until it is there.
  watch(
    [() => programme.stored?.id, chosen, () => (chosen.value === NOW ? programme.stored?.stamp : '')],
    ([id, key], [idBefore, keyBefore]) => {
      if (id !== idBefore || key !== keyBefore) {
        source.value = null;
        shownFixed.value = null;
      }
      if (wanted()) void read();
    },
    { immediate: true },
  );

  /** Computes a fixed one again from what its inputs are now. */
  async function checkAgain(): Promise<void> {
    checking.value = true;
    failure.value = null;
    try {
      checked.value = await api.checkFixed(programmeId(), shownFixed.value!.id);
    } catch (error) {
      failure.value = ApiFailure.of(error, 'It could not be computed again.', 'Try again.');
    } finally {
      checking.value = false;
    }
  }
  /** Fixes the answers as they are; resolves to whether it went well: then the fixed one is shown. */
  async function fix(why: string): Promise<boolean> {
    failure.value = await programme.change((id) => api.fix(id, why));
    if (failure.value) return false;
    chosen.value = programme.view!.fixed[0]!.id;
    return true;
  }
  async function takeAway(): Promise<void> {
    const { id: key } = shownFixed.value!;
    if (await programme.changeAloud((id) => api.removeFixed(id, key))) chosen.value = NOW;
  }

  return { source, shownFixed, entry, failure, checked, checking, checkAgain, fix, takeAway };
}
