import type { Choices, ChoicesExtent, Curves } from '@gezeit/contract';
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import { answerFailure, api, type ApiFailure } from '../shared/api/client.js';

/**
 * What comes after the first sentence of a programme's state: its curves, and what else could have been chosen.
 * @param opened the programme that is open, null where there is none
 */
export function laterAnswers(opened: () => string | null) {
  const curves = shallowRef<Curves | null>(null);
  /** Whether the curves that are shown are of an earlier state: newer ones are being judged. */
  const curvesPending = ref(false);
  const curvesFailure = shallowRef<ApiFailure | null>(null);
  /** What else could have been chosen; null until it has been tried for what is shown now. */
  const choices = shallowRef<Choices | null>(null);
  const choicesTried = ref<ChoicesExtent | null>(null);
  const choicesFailure = shallowRef<ApiFailure | null>(null);
  /** Places on the page that show curves. */
  const curvePlaces = ref(0);
  /** Places near to being seen that show all of the choices. */
  const places = ref(0);
  /** Whether all of the choices are tried, or will be as soon as the sentence stands: where nobody is near to seeing them they are not. */
  const allChoicesWanted = computed(() => places.value > 0);
  let fetchingCurves: AbortController | null = null;
  let fetchingChoices: AbortController | null = null;

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
      if (!controller.signal.aborted) curvesFailure.value = answerFailure(error);
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
    const id = opened();
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
        if (extent === 'all') await holds(() => allChoicesWanted.value, controller.signal);
        if (controller.signal.aborted) return;
        const fetched = await api.choices(id, extent, controller.signal);
        if (controller.signal.aborted) return;
        choices.value = fetched;
        choicesTried.value = extent;
      }
    } catch (error) {
      if (!controller.signal.aborted) choicesFailure.value = answerFailure(error);
    }
  }

  /** Gives up what is asked for, and shows nothing of the programme that was open. */
  function forget(): void {
    fetchingCurves?.abort();
    fetchingChoices?.abort();
    curves.value = null;
    choices.value = null;
  }

  return {
    curves,
    curvesPending,
    curvesFailure,
    choices,
    choicesTried,
    choicesFailure,
    allChoicesWanted,
    fetchCurves,
    fetchChoices,
    showsCurves,
    nearAllChoices,
    forget,
  };
}

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
