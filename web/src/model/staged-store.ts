import { type Staged, type StagedDecisions, type StagedKind } from '@gezeit/contract';
import { useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowReactive, shallowRef } from 'vue';
import { api, ApiFailure } from '../shared/api/client.js';
import { followImport, uploadLoose, type BundleFile } from '../shared/api/upload.js';
import { usePerson } from '../shared/person-store.js';
import { painted, proposalOf, stagedPulls } from './staged-pulls.js';

const ASK_EVERY_MS = 400;

/** Dropped files that are not kept yet: sending, reading, deciding, keeping. */
export const useStaged = defineStore('staged', () => {
  const person = usePerson();
  const staged = shallowRef<Staged | null>(null);
  const sending = ref<number | null>(null);
  const keeping = ref<number | null>(null);
  const failure = shallowRef<ApiFailure | null>(null);
  const undone = shallowReactive<StagedDecisions[]>([]);
  const canUndo = computed(() => undone.length > 0);
  let asking = 0;
  /** Decisions that are not answered yet, and the number of the newest one. */
  let pending = 0;
  let newest = 0;
  let saving: Promise<unknown> = Promise.resolve();
  /** What the newest answer leads to: the files are read again by it, or it is shown. */
  let following: Promise<void> = Promise.resolve();
  // What waits for its turn goes at once when the page is left.
  useEventListener(window, 'pagehide', () => {
    if (pending > 1 && staged.value) void api.decideStaged(staged.value.id, decisions.value).catch(() => undefined);
  });

  const decisions = computed(() => staged.value!.decisions);
  const pulls = computed(() => (staged.value ? stagedPulls(staged.value) : []));

  /** Sends loose exports; the id of what they became, or null where it failed. */
  async function send(files: BundleFile[], into: string | null): Promise<string | null> {
    failure.value = null;
    if (!(await person.ensure())) return null;
    sending.value = 0;
    try {
      const [first] = files;
      const title = first!.path.includes('/')
        ? first!.path.split('/')[0]!
        : files.length === 1
          ? first!.path.replace(/\.[^.]*$/, '')
          : `Exports of ${new Date(first!.file.lastModified).toISOString().slice(0, 10)}`;
      const started = await uploadLoose(files, { title, into }, (share) => (sending.value = share), new AbortController().signal);
      return started.id;
    } catch (error) {
      failure.value = asFailure(error);
      return null;
    } finally {
      sending.value = null;
    }
  }

  /** Loads what was dropped, and follows the reading to its end. */
  async function open(id: string): Promise<void> {
    const mine = ++asking;
    if (staged.value?.id !== id) {
      staged.value = null;
      undone.length = 0;
    }
    failure.value = null;
    for (;;) {
      try {
        const next = await api.staged(id);
        if (mine !== asking) return;
        // What was decided meanwhile is on its way: an older state of the server does not take its place.
        if (pending === 0) staged.value = next;
        if (next.state !== 'reading') break;
      } catch (error) {
        if (mine === asking) failure.value = asFailure(error);
        return;
      }
      await new Promise((resolve) => setTimeout(resolve, ASK_EVERY_MS));
    }
    await propose();
  }

  /** What is proposed, and by what; null where it is not what stands. */
  const proposed = computed(() => {
    const fresh = pulls.value.filter(({ stands }) => !stands);
    if (!staged.value || fresh.length === 0) return null;
    const proposal = proposalOf(staged.value, fresh);
    const isAsProposed = fresh.every(({ key, setup, kind }) => proposal.pulls[key]!.setup === setup && proposal.pulls[key]!.kind === kind);
    const ids = new Set(fresh.map(({ setup }) => setup));
    return isAsProposed && ids.size > 1 ? { by: proposal.by, setups: decisions.value.setups.filter(({ id }) => ids.has(id)) } : null;
  });

  /** What nobody has decided yet is proposed once: by the names of the files, or a long pause between pulls is a swap. */
  async function propose(): Promise<void> {
    const found = pulls.value.filter(({ stands }) => !stands);
    if (Object.keys(decisions.value.pulls).length > 0 || found.length === 0) return;
    const { setups, pulls: of } = proposalOf(staged.value!, found);
    await decide({ setups, pulls: of }, false);
  }

  async function decide(change: Partial<StagedDecisions>, undoable = true): Promise<void> {
    // A field that goes with its page tells what stood in it when there is nothing any more that it would be of.
    if (!staged.value) return;
    const { id } = staged.value;
    if (!(await person.ensure())) return;
    if (undoable) undone.push(decisions.value);
    staged.value = { ...staged.value!, decisions: { ...decisions.value, ...change } };
    const mine = decisions.value;
    const turn = ++newest;
    pending += 1;
    // One after the other: the last decision is the one that stands. What follows from an answer may be a decision itself: nothing waits for that here.
    const answered = saving.then(() => api.decideStaged(id, mine)).finally(() => (pending -= 1));
    saving = answered.catch(() => undefined);
    try {
      const next = await answered;
      failure.value = null;
      if (staged.value?.id !== id || turn !== newest) return;
      following = next.state === 'reading' ? open(id) : shown(next);
      await following;
    } catch (error) {
      failure.value = asFailure(error);
    }
  }

  async function shown(next: Staged): Promise<void> {
    staged.value = next;
    await propose();
  }

  /** Everything that was decided is answered, and what was read anew by it has been. */
  async function settled(): Promise<void> {
    await saving;
    await following;
    // And what was proposed then.
    await saving;
  }

  /** What the chosen pulls are; a setup that is new with it is one decision with it, and one undo. */
  const paint = (keys: readonly string[], change: { setup?: string; kind?: StagedKind }, setups = decisions.value.setups) => {
    const chosen = painted(pulls.value, keys, change.kind);
    if (chosen.length === 0) return;
    return decide({
      setups,
      pulls: { ...decisions.value.pulls, ...Object.fromEntries(chosen.map(({ key, setup, kind }) => [key, { setup, kind, ...change }])) },
    });
  };

  /** Puts a sweep into a pull, into none or on its own; null: as it was found. `wholeFile` where the file shows no sweep. */
  function place(sweep: string, target: string | null, wholeFile: boolean) {
    const places = { ...decisions.value.places };
    const file = sweep.slice(0, sweep.lastIndexOf('#'));
    for (const key of Object.keys(places)) if (key === sweep || (wholeFile && key.startsWith(`${file}#`))) delete places[key];
    if (target !== null) places[sweep] = target;
    return decide({ places });
  }

  /** Sends the files to a programme that stands, or lets them become one. */
  async function direct(programmeId: string | null): Promise<void> {
    const { id } = staged.value!;
    if (!(await person.ensure())) return;
    try {
      await settled();
      await api.directStaged(id, programmeId);
      undone.length = 0;
      await open(id);
    } catch (error) {
      failure.value = asFailure(error);
    }
  }

  async function undo(): Promise<void> {
    const before = undone.pop();
    if (before) await decide(before, false);
  }

  /** Keeps it as a programme; its id, or null where it failed. */
  async function keep(): Promise<string | null> {
    const { id } = staged.value!;
    failure.value = null;
    if (!(await person.ensure())) return null;
    keeping.value = 0;
    try {
      await settled();
      const started = await api.keepStaged(id);
      const last = await followImport(started.id, ({ progress }) => (keeping.value = progress));
      const { outcome } = last;
      if (outcome?.kind === 'imported' || outcome?.kind === 'opened') return outcome.programmeId;
      if (outcome?.kind === 'failed') throw new ApiFailure(outcome.error.message, outcome.error.nextStep, '', outcome.error.code);
      return null;
    } catch (error) {
      failure.value = asFailure(error);
      return null;
    } finally {
      keeping.value = null;
    }
  }

  async function throwAway(): Promise<boolean> {
    if (!(await person.ensure())) return false;
    try {
      await api.throwStagedAway(staged.value!.id);
      staged.value = null;
      return true;
    } catch (error) {
      failure.value = asFailure(error);
      return false;
    }
  }

  return {
    staged,
    sending,
    keeping,
    failure,
    decisions,
    pulls,
    proposed,
    send,
    open,
    decide,
    paint,
    place,
    direct,
    canUndo,
    undo,
    keep,
    throwAway,
  };
});

function asFailure(error: unknown): ApiFailure {
  return ApiFailure.of(error, 'Something went wrong with the dropped files.', 'Reload the page: they are still there.');
}
