import { decidedOf, recordingOfPull, stagedKey, type ReadPull, type Staged, type StagedDecisions, type StagedKind } from '@gezeit/contract';
import { useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { api, ApiFailure } from '../shared/api/client.js';
import { followImport, uploadLoose, type BundleFile } from '../shared/api/upload.js';
import { usePerson } from '../shared/person-store.js';

const ASK_EVERY_MS = 400;

/** One pull of dropped files as it is decided about. */
export interface StagedPull extends ReadPull {
  key: string;
  setup: string;
  kind: StagedKind;
  /** Seconds from the first pull; by order where nothing tells. */
  atS: number;
  timeKnown: boolean;
  peak: { powerW: number; rpm: number | null } | null;
  /** It is in the programme already: files can come to it, and nothing else of it is decided here. */
  stands: boolean;
}

/** Pulls that nothing tells the time of stand so far apart, s. */
const APART_S = 300;

/** Dropped files that are not kept yet: sending, reading, deciding, keeping. */
export const useStaged = defineStore('staged', () => {
  const person = usePerson();
  const staged = shallowRef<Staged | null>(null);
  const sending = ref<number | null>(null);
  const keeping = ref<number | null>(null);
  const failure = shallowRef<ApiFailure | null>(null);
  const undone: StagedDecisions[] = [];
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
  const pulls = computed<StagedPull[]>(() => {
    const { reading, hints } = staged.value ?? {};
    if (!reading || !hints) return [];
    const known = reading.pulls.map(({ startedAt }) =>
      startedAt === null ? null : Date.parse(/(Z|[+-]\d\d:\d\d)$/.test(startedAt) ? startedAt : `${startedAt}Z`),
    );
    const first = known[0] ?? 0;
    const standing = new Map(staged.value!.into?.pulls.map((pull) => [pull.id, pull]));
    return reading.pulls.map((pull, i) => {
      const key = stagedKey(pull);
      const stands = standing.get(pull.id);
      const decided = stands ?? decidedOf(pull, decisions.value.pulls);
      const afterS = hints.afterS?.[key] ?? null;
      const ms = known[i] ?? null;
      return {
        ...pull,
        key,
        setup: decided?.setup ?? decisions.value.setups[0]!.id,
        kind: decided?.kind ?? 'measured',
        atS: ms !== null ? (ms - first) / 1000 : (afterS ?? i * APART_S),
        timeKnown: ms !== null || afterS !== null,
        peak: hints.peaks[key] ?? null,
        stands: stands !== undefined,
      };
    });
  });

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

  /** What nobody has decided yet is proposed once: a long pause between pulls is a swap. */
  async function propose(): Promise<void> {
    const found = pulls.value.filter(({ stands }) => !stands);
    if (Object.keys(decisions.value.pulls).length > 0 || found.length === 0) return;
    const letters = proposedSetups(
      found,
      decisions.value.setups.map(({ id }) => id),
    );
    await decide({ pulls: Object.fromEntries(found.map(({ key }, i) => [key, { setup: letters[i]!, kind: 'measured' as const }])) }, false);
  }

  async function decide(change: Partial<StagedDecisions>, undoable = true): Promise<void> {
    const { id } = staged.value!;
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
    const asked = pulls.value.filter(({ key, stands }) => keys.includes(key) && !stands);
    // The sweeps of one recording are one drive, or none of them is.
    const whole = asked
      .filter(({ kind }) => change.kind !== undefined && (change.kind === 'drive') !== (kind === 'drive'))
      .map(recordingOfPull);
    const chosen = pulls.value.filter(
      (pull) =>
        !pull.stands &&
        (asked.includes(pull) ||
          (change.kind !== undefined && whole.includes(recordingOfPull(pull)) && (change.kind === 'drive' || pull.kind === 'drive'))),
    );
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

  return { staged, sending, keeping, failure, decisions, pulls, send, open, decide, paint, place, direct, undo, keep, throwAway };
});

/** A pause so much longer than the usual one is a swap. */
const SWAP_PAUSE = 1.8;

/** Setups proposed from the pauses: the first two in turn, block by block. */
function proposedSetups(pulls: readonly { atS: number; timeKnown: boolean }[], setups: readonly string[]): string[] {
  const gaps = pulls.slice(1).map(({ atS }, i) => atS - pulls[i]!.atS);
  const usual = [...gaps].sort((a, b) => a - b)[Math.floor((gaps.length - 1) / 2)] ?? 0;
  let block = 0;
  return pulls.map(({ timeKnown }, i) => {
    if (i > 0 && timeKnown && usual > 0 && gaps[i - 1]! > SWAP_PAUSE * usual) block += 1;
    return setups[block % Math.min(2, setups.length)]!;
  });
}

function asFailure(error: unknown): ApiFailure {
  return ApiFailure.of(error, 'Something went wrong with the dropped files.', 'Reload the page: they are still there.');
}
