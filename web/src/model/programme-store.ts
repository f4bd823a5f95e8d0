import type { AlignmentByHand, Amendment, Change, Comparison, ProgrammeChanged, ProgrammeView, Setup } from '@gezeit/contract';
import { withLeaning, withWords } from '@gezeit/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { answerFailure, api, ApiFailure } from '../shared/api/client.js';
import { usePerson } from '../shared/person-store.js';
import { setupStyle, type Dash } from '../shared/charts/setup-colours.js';
import { useTheme } from '../shared/charts/theme-store.js';
import { useShow } from '../shared/units/use-show.js';
import { laterAnswers } from './later-answers.js';
import { programmeEdits } from './programme-edits.js';

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
  const later = laterAnswers(() => stored.value?.id ?? null);
  const { curves, curvesPending, choices } = later;
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
  const { edit, edited, editFailure, saving, awaited } = programmeEdits(stored, showEdited);
  /** Whether something is typed that will be stored once the hand rests. */
  const typing = ref(false);
  /** Whether everything that was changed is on the server. */
  const isStored = computed(() => saving.value === 0 && !busy.value && !typing.value);
  /** Whether what is shown is being judged anew: a change is on its way. */
  const judging = computed(() => busy.value || awaited.value > 0);
  let opening = 0;
  const leaving: (() => Promise<void>)[] = [];

  const setups = computed<DrawnSetup[]>(() =>
    (stored.value?.bundle.setups ?? []).map((setup, index) => ({ setup, ...setupStyle(index, themes.theme) })),
  );
  const setupById = computed(() => new Map(setups.value.map((entry) => [entry.setup.id, entry])));
  const comparisons = computed<Comparison[]>(() => view.value?.findings.comparisons ?? []);
  /** What was just taken back; null once it has been said for long enough. */
  const takenBack = shallowRef<Change | null>(null);
  /** The change that an undo takes back; null where there is none. */
  const undoable = computed(() => stored.value?.changes.find(({ undone }) => !undone) ?? null);
  const pullIds = computed(() => stored.value?.tide.pulls.map(({ id }) => id) ?? []);

  /** Opens a programme; what was begun in the one before is stored there first, and only the newest opening counts. */
  async function open(id: string): Promise<void> {
    opening += 1;
    const own = opening;
    if (stored.value && stored.value.id !== id) {
      await Promise.all(leaving.map((store) => store()));
      await edited();
      if (own !== opening) return;
      stored.value = null;
      takenBack.value = null;
      later.forget();
      editFailure.value = null;
    }
    failure.value = null;
    try {
      const next = await api.programme(id);
      if (own === opening) show(next);
    } catch (error) {
      if (own === opening) failure.value = answerFailure(error);
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
    void later.fetchCurves(next.id);
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
      return answerFailure(error);
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
      editFailure.value = answerFailure(error);
      return null;
    }
  }

  /** Shows what an edit left; the curves are read again only where the findings have changed. */
  function showEdited(next: ProgrammeChanged): void {
    const judgedAnew = JSON.stringify(next.findings) !== JSON.stringify(stored.value?.findings);
    stored.value = withLogs(next);
    if (judgedAnew) void later.fetchCurves(next.id);
  }

  const exclude = (pull: string, excluded: string | false | null) => change((id) => api.exclude(id, pull, excluded));
  const align = (pull: string, moved: AlignmentByHand) => change((id) => api.align(id, pull, moved));
  const amend = (pull: string, amendment: Amendment) => change((id) => api.amend(id, pull, amendment));
  /** Takes the last change back; one that is still being stored is waited for, or an earlier one would be undone. */
  async function undo(): Promise<boolean> {
    await edited();
    return changeAloud(async (id) => {
      const { takenBack: which, ...changed } = await api.undo(id);
      if (stored.value?.id === id) takenBack.value = changed.changes.find((entry) => entry.id === which) ?? null;
      return changed;
    });
  }

  return {
    stored,
    view,
    curves,
    curvesFailure: later.curvesFailure,
    curvesPending,
    choices,
    choicesTried: later.choicesTried,
    choicesFailure: later.choicesFailure,
    allChoicesWanted: later.allChoicesWanted,
    fetchChoices: later.fetchChoices,
    showsCurves: later.showsCurves,
    nearAllChoices: later.nearAllChoices,
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
    undoable,
    takenBack,
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

const NOBODY = new ApiFailure('Nobody has said who is working: nothing was done.', 'Say it, and do it again.', '', 'nobody');
