import type { ImportState } from '@gezeit/contract';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { api, ApiFailure } from '../shared/api/client.js';
import { followImport, uploadBundle, type BundleFile } from '../shared/api/upload.js';
import { usePerson } from '../shared/person-store.js';

/** The import that is under way: choosing, sending, reading, and how it ended. */
export const useImport = defineStore('import', () => {
  const person = usePerson();
  const open = ref(false);
  const sending = ref<number | null>(null);
  const state = shallowRef<ImportState | null>(null);
  const failure = shallowRef<ApiFailure | null>(null);
  /** Grows with every import that changed the board. */
  const finished = ref(0);
  let upload: AbortController | null = null;

  const running = computed(() => sending.value !== null || (state.value !== null && !state.value.outcome));
  const progress = computed(() => (state.value ? state.value.progress : (sending.value ?? 0) * 0.05));

  function start(): void {
    if (!running.value) reset();
    open.value = true;
  }

  function reset(): void {
    sending.value = null;
    state.value = null;
    failure.value = null;
  }

  async function send(files: BundleFile[]): Promise<void> {
    open.value = true;
    if (running.value) return;
    reset();
    if (files.length === 0) {
      failure.value = new ApiFailure('No file was chosen.', 'Choose the bundle folder or its .zip.');
      return;
    }
    if (!(await person.ensure())) return;
    upload = new AbortController();
    sending.value = 0;
    try {
      const started = await uploadBundle(files, (share) => (sending.value = share), upload.signal);
      sending.value = null;
      await follow(started);
    } catch (error) {
      sending.value = null;
      failure.value = asFailure(error);
    }
  }

  async function follow(started: ImportState): Promise<void> {
    state.value = started;
    const last = await followImport(started.id, (next) => (state.value = next));
    if (last.outcome?.kind === 'imported') finished.value += 1;
  }

  async function choose(choice: 'version' | 'copy'): Promise<void> {
    if (!state.value) return;
    try {
      await follow(await api.chooseImport(state.value.id, choice));
    } catch (error) {
      failure.value = asFailure(error);
    }
  }

  async function cancel(): Promise<void> {
    if (sending.value !== null) upload?.abort();
    else if (state.value) await api.cancelImport(state.value.id).catch(() => {});
  }

  return { open, sending, state, failure, finished, running, progress, start, reset, send, choose, cancel };
});

function asFailure(error: unknown): ApiFailure {
  return ApiFailure.of(error, 'The import could not be followed.', 'Look on the board whether it came through.');
}
