import type {
  AlignmentByHand,
  Amendment,
  Choices,
  ChoicesExtent,
  Comparison,
  Curves,
  EditablePart,
  PartValue,
  ProgrammeChanged,
  ProgrammeView,
  Setup,
} from '@gezeit/contract';
import { withLeaning, withWords } from '@gezeit/core';
import { defineStore } from 'pinia';
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import { api, ApiFailure } from '../shared/api/client.js';
import { usePerson } from '../shared/person-store.js';
import { setupStyle, type Dash } from '../shared/charts/setup-colours.js';
import { useTheme } from '../shared/charts/theme-store.js';
import { useShow } from '../shared/units/use-show.js';

/** A setup as it is drawn. */
export interface DrawnSetup {
  setup: Setup;
  colour: string;
  dash: Dash;
}

/** The programme that is open: its view, its curves, and what can be done to it. */
export const useProgramme = defineStore('programme', () => {
  const themes = useTheme();
  const shown = useShow();
  const person = usePerson();
  const stored = shallowRef<ProgrammeView | null>(null);
  const curves = shallowRef<Curves | null>(null);
  /** Whether the curves that are shown are of an earlier state: newer ones are being judged. */
  const curvesPending = ref(false);
  /** What else could have been chosen; null until it has been tried for what is shown now. */
  const choices = shallowRef<Choices | null>(null);
  /** What the server knows of it, its texts in the units that are chosen. */
  const view = computed<ProgrammeView | null>(() => {
    const raw = stored.value;
    if (!raw) return null;
    // What an answer rests on comes after its first sentence, and then stands wherever the answer does. Until then curves that come change nothing.
    const differences = () => (curvesPending.value ? [] : (curves.value?.differences ?? []));
    const findings = choices.value
      ? withLeaning(raw.findings, { choices: choices.value.comparisons, differences: differences() })
      : raw.findings;
    return { ...raw, findings: withWords(findings, shown.value.words), pulls: withWords(raw.pulls, shown.value.words) };
  });
  const failure = shallowRef<ApiFailure | null>(null);
  const busy = ref(false);
  const curvesFailure = shallowRef<ApiFailure | null>(null);
  const choicesTried = ref<ChoicesExtent | null>(null);
  const choicesFailure = shallowRef<ApiFailure | null>(null);
  /** Places on the page that show curves. */
  const curvePlaces = ref(0);
  /** Places near to being seen that show all of the choices. */
  const places = ref(0);
  let fetchingCurves: AbortController | null = null;
  let fetchingChoices: AbortController | null = null;
  let opening = 0;
  const leaving: (() => Promise<void>)[] = [];

  const setups = computed<DrawnSetup[]>(() =>
    (stored.value?.bundle.setups ?? []).map((setup, index) => ({ setup, ...setupStyle(index, themes.theme) })),
  );
  const setupById = computed(() => new Map(setups.value.map((entry) => [entry.setup.id, entry])));
  const comparisons = computed<Comparison[]>(() => view.value?.findings.comparisons ?? []);
  const canUndo = computed(() => stored.value?.changes.some(({ undone }) => !undone) ?? false);
  const pullIds = computed(() => stored.value?.tide.pulls.map(({ id }) => id) ?? []);

  /** Opens a programme; what was begun in the one before is stored there first, and only the newest opening counts. */
  async function open(id: string): Promise<void> {
    opening += 1;
    const own = opening;
    if (stored.value && stored.value.id !== id) {
      await Promise.all(leaving.map((store) => store()));
      await editing.catch(() => undefined);
      if (own !== opening) return;
      fetchingCurves?.abort();
      fetchingChoices?.abort();
      stored.value = null;
      curves.value = null;
      choices.value = null;
      editFailure.value = null;
    }
    failure.value = null;
    try {
      const next = await api.programme(id);
      if (own === opening) show(next);
    } catch (error) {
      if (own === opening) failure.value = asFailure(error);
    }
  }

  /** Has something stored before another programme is opened in the place of this one. */
  const beforeLeaving = (store: () => Promise<void>) => void leaving.push(store);

  /** What a change answers comes without the logs: those that are known stand. */
  const withLogs = (next: ProgrammeView | ProgrammeChanged): ProgrammeView => {
    // But where something else is decided about columns, or pulls list other files, they are not.
    const read = ({ channels, pulls }: ProgrammeView['bundle']) =>
      JSON.stringify([channels ?? null, pulls.map(({ logs }) => logs.map(({ file }) => file))]);
    if (stored.value?.id === next.id && !('logs' in next) && read(stored.value.bundle) !== read(next.bundle)) void reread();
    return { logs: stored.value?.logs ?? [], ...next };
  };

  function show(next: ProgrammeView | ProgrammeChanged): void {
    stored.value = withLogs(next);
    void fetchCurves(next.id);
  }

  /** Reads the open programme again and shows it where something has changed; a failure leaves what is shown. */
  async function refresh(): Promise<void> {
    const shown = stored.value;
    if (!shown || busy.value) return;
    const next = await api.programme(shown.id).catch(() => null);
    if (next && next.stamp !== shown.stamp && stored.value === shown) show(next);
  }

  /** Asks whether another window has changed the open programme, and shows that; not while something of this one is on its way. */
  async function followOthers(): Promise<void> {
    const shown = stored.value;
    if (!shown || !isStored.value || judging.value) return;
    const stamp = await api.stamp(shown.id).catch(() => null);
    if (stamp !== null && stamp !== shown.stamp && stored.value === shown && isStored.value && !judging.value) await refresh();
  }

  /** Reads the open programme again whatever was changed: a day that runs adds pulls and logs to it. */
  async function reread(): Promise<void> {
    const id = stored.value?.id;
    const own = (rereads += 1);
    const next = id ? await api.programme(id).catch(() => null) : null;
    // An answer that was overtaken on its way would show what was.
    if (!next || stored.value?.id !== id || own < newestReread) return;
    newestReread = own;
    show(next);
  }
  let rereads = 0;
  let newestReread = 0;

  async function fetchCurves(id: string): Promise<void> {
    fetchingCurves?.abort();
    const controller = (fetchingCurves = new AbortController());
    curvesFailure.value = null;
    curvesPending.value = true;
    try {
      // The sentence stands on the page first: who judges the curves would hold it up.
      await nextTick();
      // Nor are they judged where nothing shows them: they are when the page comes to where something does.
      await holds(() => curvePlaces.value > 0, controller.signal);
      if (controller.signal.aborted) return;
      const fetched = await api.curves(id, controller.signal);
      if (!controller.signal.aborted) curves.value = fetched;
    } catch (error) {
      if (!controller.signal.aborted) curvesFailure.value = asFailure(error);
    } finally {
      if (fetchingCurves === controller) curvesPending.value = false;
    }
  }

  /** Says that a place which shows curves stands on the page, or no more. */
  const showsCurves = (stands: boolean) => void (curvePlaces.value += stands ? 1 : -1);

  /** Says that a place which shows all of the other choices has come near to being seen, or is so no more. */
  const nearAllChoices = (near: boolean) => void (places.value += near ? 1 : -1);

  /** Has the other choices tried; asked for by the screen that shows what an answer rests on. All of them are tried where they are shown. */
  async function fetchChoices(): Promise<void> {
    const id = stored.value?.id;
    fetchingChoices?.abort();
    const controller = (fetchingChoices = new AbortController());
    choices.value = null;
    choicesTried.value = null;
    choicesFailure.value = null;
    if (!id) return;
    try {
      // After the sentence and the curves, and not for every one of some changes in a row.
      await new Promise((resolve) => setTimeout(resolve, CHOICES_AFTER_MS));
      if (controller.signal.aborted) return;
      // The second sentence first: it comes from a few of them.
      for (const extent of ['short', 'all'] as const) {
        if (extent === 'all') await holds(() => places.value > 0, controller.signal);
        if (controller.signal.aborted) return;
        const fetched = await api.choices(id, extent, controller.signal);
        if (controller.signal.aborted) return;
        choices.value = fetched;
        choicesTried.value = extent;
      }
    } catch (error) {
      if (!controller.signal.aborted) choicesFailure.value = asFailure(error);
    }
  }

  /** Makes a change of the open programme after asking who is working; returns its failure, if any, for the caller to show. */
  async function change(action: (id: string) => Promise<ProgrammeChanged>): Promise<ApiFailure | null> {
    const id = stored.value?.id;
    if (!id || !(await person.ensure())) return NOBODY;
    busy.value = true;
    try {
      const next = await action(id);
      if (stored.value?.id === id) show(next);
      return null;
    } catch (error) {
      return asFailure(error);
    } finally {
      busy.value = false;
    }
  }

  /** The same where the caller has no place of its own for a failure: it is shown above the page. Whether it was done. */
  async function changeAloud(action: (id: string) => Promise<ProgrammeChanged>): Promise<boolean> {
    const failed = await change(action);
    editFailure.value = failed;
    return failed === null;
  }

  /** Asks the server for something that an edit needs; null where it could not be had, which is shown above the page. */
  async function request<T>(ask: () => Promise<T>): Promise<T | null> {
    if (!(await person.ensure())) return null;
    try {
      return await ask();
    } catch (error) {
      editFailure.value = asFailure(error);
      return null;
    }
  }

  /** What every part holds now, as an edit names it. */
  function partOf<P extends EditablePart>(part: P): PartValue<P> {
    const { bundle, vehicleId, cellIds } = stored.value!;
    const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
    const special: Record<string, unknown> = { vehicleId, cellIds, cells };
    return (part in special ? special[part] : (bundle[part as keyof typeof bundle] ?? null)) as PartValue<P>;
  }

  let editing: Promise<unknown> = Promise.resolve();
  const editFailure = shallowRef<ApiFailure | null>(null);
  const saving = ref(0);
  /** Edits whose answer is not there yet: stored or not. */
  const awaited = ref(0);
  /** Whether something is typed that will be stored once the hand rests. */
  const typing = ref(false);
  /** Whether everything that was changed is on the server. */
  const isStored = computed(() => saving.value === 0 && !busy.value && !typing.value);
  /** Whether what is shown is being judged anew: a change is on its way. */
  const judging = computed(() => busy.value || awaited.value > 0);

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
        if (stored.value?.id === id) showEdited(answer);
        return true;
      } catch (error) {
        editFailure.value = asFailure(error);
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

  /** Shows what an edit left; the curves are read again only where the findings have changed. */
  function showEdited(next: ProgrammeChanged): void {
    const judgedAnew = JSON.stringify(next.findings) !== JSON.stringify(stored.value?.findings);
    stored.value = withLogs(next);
    if (judgedAnew) void fetchCurves(next.id);
  }

  const exclude = (pull: string, excluded: string | false | null) => change((id) => api.exclude(id, pull, excluded));
  const align = (pull: string, moved: AlignmentByHand) => change((id) => api.align(id, pull, moved));
  const amend = (pull: string, amendment: Amendment) => change((id) => api.amend(id, pull, amendment));
  /** Takes the last change back; one that is still being stored is waited for, or an earlier one would be undone. */
  async function undo(): Promise<boolean> {
    await editing.catch(() => undefined);
    return changeAloud((id) => api.undo(id));
  }

  return {
    stored,
    view,
    curves,
    curvesFailure,
    curvesPending,
    choices,
    choicesTried,
    choicesFailure,
    fetchChoices,
    showsCurves,
    nearAllChoices,
    failure,
    busy,
    editFailure,
    saving,
    typing,
    isStored,
    judging,
    edit,
    change,
    changeAloud,
    request,
    setups,
    setupById,
    comparisons,
    canUndo,
    pullIds,
    open,
    beforeLeaving,
    refresh,
    followOthers,
    reread,
    exclude,
    amend,
    align,
    undo,
  };
});

/** So long a state has to stand before its other choices are tried. */
const CHOICES_AFTER_MS = 700;

/** Resolves once something holds, or is given up; nothing is watched after that. */
function holds(condition: () => boolean, signal: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    if (condition()) return resolve();
    const end = () => {
      stop();
      resolve();
    };
    const stop = watch(condition, (now) => now && end());
    signal.addEventListener('abort', end, { once: true });
  });
}

const NOBODY = new ApiFailure('Nobody has said who is working: nothing was done.', 'Say it, and do it again.', '', 'nobody');

function asFailure(error: unknown): ApiFailure {
  return error instanceof ApiFailure
    ? error
    : new ApiFailure('The answer of Gezeit could not be read.', 'Reload the page; if it happens again, report it.', '', 'unreadable');
}
