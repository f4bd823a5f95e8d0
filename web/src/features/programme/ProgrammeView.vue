<script setup lang="ts">
import type { Setup } from '@gezeit/contract';
import { changeText } from '@gezeit/core';
import { useEventListener, useIntervalFn } from '@vueuse/core';
import Button from 'primevue/button';
import ProgressBar from 'primevue/progressbar';
import { watch } from 'vue';
import { RouterView, useRoute } from 'vue-router';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { provideShortcuts } from '../../shared/shortcuts.js';
import { useRefocus } from '../../shared/use-refocus.js';
import AmendDialog from './AmendDialog.vue';
import KeptNote from './KeptNote.vue';
import UndoneNote from './UndoneNote.vue';
import ExcludeDialog from './ExcludeDialog.vue';
import { useAmendment } from '../../model/amendment-store.js';
import { useExclusion } from '../../model/exclusion-store.js';
import { useProgramme } from '../../model/programme-store.js';
import { useSelection } from '../../model/use-selection.js';

/** The workspace of one programme: opens it and shows the step that the address names. */
const route = useRoute();
const programme = useProgramme();
const selection = useSelection();
const amendment = useAmendment();
const exclusion = useExclusion();

watch(
  () => route.params['id'],
  (id) => {
    if (typeof id === 'string') void programme.open(id);
  },
  { immediate: true },
);

// Another window, here or over the network, may have changed the programme meanwhile.
useRefocus(() => programme.refresh());
const LOOKS_EVERY_MS = 600;
let looking = false;
useIntervalFn(async () => {
  // A day has a line of its own, which tells more and sooner.
  if (looking || route.name === 'day' || document.visibilityState !== 'visible') return;
  looking = true;
  await programme.followOthers();
  looking = false;
}, LOOKS_EVERY_MS);

// What waits behind another change ends with the page: the browser asks before that. What stands in a field that was not left is taken as if it
// had been, and whoever stays goes on in it.
useEventListener(window, 'beforeunload', (event) => {
  const field = document.activeElement;
  const isWritten = field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement;
  if (isWritten) field.blur();
  if (programme.saving === 0 && !programme.typing) return;
  event.preventDefault();
  if (isWritten) setTimeout(() => field.focus());
});

/** The setup that a digit chooses: null where it is compared with nothing, or is chosen already. */
function comparedBy(key: string): Setup | null {
  const setup = programme.setups[Number(key) - 1]?.setup;
  const isCompared = setup && programme.comparisons.some(({ candidate }) => candidate === setup.id);
  return isCompared && setup.id !== selection.candidate.value ? setup : null;
}

provideShortcuts([
  { keys: [',', '←'], what: 'the pull before', run: () => selection.step(-1) },
  { keys: ['.', '→'], what: 'the next pull', run: () => selection.step(1) },
  {
    keys: ['x'],
    what: 'leave the selected pull out, or take it back',
    command: () => {
      const id = selection.pull.value;
      const isMeasured = programme.view?.bundle.pulls.some((pull) => pull.id === id && pull.kind === 'measured');
      const isUsed = programme.view?.findings.pulls.some((pull) => pull.id === id && pull.status === 'used');
      return isMeasured ? `${isUsed ? 'Leave out' : 'Take back'} pull ${id}` : null;
    },
    run: () => exclusion.ask(selection.pull.value!),
  },
  {
    keys: ['c'],
    what: 'correct the selected pull',
    command: () => selection.pull.value && `Correct pull ${selection.pull.value}`,
    run: () => amendment.ask(selection.pull.value!),
  },
  {
    keys: ['z'],
    what: 'undo the last change',
    command: () => programme.undoable && `Undo: ${changeText(programme.undoable)}`,
    run: () => void programme.undo(),
  },
  {
    keys: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
    what: 'choose a setup to compare',
    command: (key) => {
      const setup = comparedBy(key);
      return setup && `Compare ${setup.id}: ${setup.name}`;
    },
    run: (key) => (selection.candidate.value = comparedBy(key)!.id),
  },
]);
</script>

<template>
  <div v-if="programme.failure" class="page"><FailureNote :failure="programme.failure" /></div>
  <div v-else-if="!programme.view" class="page" aria-busy="true">
    <p class="muted">Reading the programme…</p>
    <ProgressBar mode="indeterminate" style="height: 4px" aria-label="Reading the programme" />
  </div>
  <template v-else>
    <div v-if="programme.editFailure" class="page edit-failure">
      <FailureNote :failure="programme.editFailure">
        <Button text size="small" label="Close" @click="programme.editFailure = null" />
      </FailureNote>
    </div>
    <KeptNote />
    <div :data-stored="programme.isStored && !programme.judging"><RouterView /></div>
  </template>
  <UndoneNote />
  <ExcludeDialog />
  <AmendDialog />
</template>

<style scoped>
.edit-failure {
  padding-bottom: 0;
}
</style>
