<script setup lang="ts">
import { gatesFor, isNoGood, openItems } from '@gezeit/core';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { useProgramme } from '../../model/programme-store.js';
import ChangedDialog from './ChangedDialog.vue';
import ChecklistDialog from './ChecklistDialog.vue';
import DayBar from './DayBar.vue';
import DayLine from './DayLine.vue';
import DaySays from './DaySays.vue';
import DayStrip from './DayStrip.vue';
import DevicesDialog from './DevicesDialog.vue';
import FiguresDialog from './FiguresDialog.vue';
import FilesDialog from './FilesDialog.vue';
import GateReadouts from './GateReadouts.vue';
import HolderNote from './HolderNote.vue';
import InsertDialog from './InsertDialog.vue';
import LastPull from './LastPull.vue';
import NoteDialog from './NoteDialog.vue';
import NowPanel from './NowPanel.vue';
import PullDialog from './PullDialog.vue';
import ReadingsDialog from './ReadingsDialog.vue';
import ReasonDialog from './ReasonDialog.vue';
import StopDialog from './StopDialog.vue';
import ZeroDialog from './ZeroDialog.vue';
import { useDay } from './day-store.js';
import { useDayActions } from './use-day-actions.js';
import { useDayClock } from './use-day-clock.js';
import { useScreenAwake } from './use-screen-awake.js';

/** The screen for the cell: one thing to do now, why, and everything that it follows from. */
const day = useDay();
const programme = useProgramme();
const chosen = ref<string | null>(null);

// Another programme's day is another day: the screen follows the address.
watch(
  () => programme.view?.id,
  (id) => id && day.open(id),
);
onMounted(() => day.open(programme.view!.id));
onBeforeUnmount(() => day.close());
useScreenAwake();

const planned = computed(() => (day.state.day === null ? (day.bundle.plan?.pulls ?? []) : day.state.steps).length);
const held = computed(() => new Set(gatesFor(day.gates, day.instruction.step?.kind ?? 'measured').map(({ id }) => id)));
const selected = computed(() => {
  const { running, pulls } = day.state;
  return running?.id ?? (pulls.some(({ id }) => id === chosen.value) ? chosen.value : (pulls.at(-1)?.id ?? null));
});
// A new pull takes the screen: what was chosen before it is an old story.
watch(
  () => day.state.pulls.length,
  () => (chosen.value = null),
);

const clock = useDayClock();
const actions = useDayActions(
  clock,
  () => selected.value,
  (pull) => (chosen.value = pull),
);
const repeats = computed(() => {
  const last = day.pullOfDay(day.state.pulls.at(-1)?.id ?? null);
  return last !== null && isNoGood(last);
});
const beforePull = computed(() => openItems(day.bundle, day.state, 'beforePull').map(({ text }) => text));
</script>

<template>
  <div class="page cell">
    <h1 class="visually-hidden">Day</h1>
    <DayLine :planned="planned" :clock="clock.text" />
    <HolderNote :clock="clock.text" />
    <FailureNote v-if="day.failure && day.dialog === null" :failure="day.failure" />
    <NowPanel :planned="planned" :clock="clock.text" />
    <GateReadouts :gates="day.instruction.gates" :held="held" />
    <DayStrip :clock="clock.text" :selected="selected" @select="chosen = $event" />
    <div class="under">
      <LastPull :pull="selected">
        <p v-if="repeats" class="repeat">Repeat it now (r): at the desk it is too late.</p>
        <p v-if="day.instruction.kind === 'pull' && beforePull.length > 0" class="muted small">Before it: {{ beforePull.join(' · ') }}.</p>
      </LastPull>
      <DaySays />
    </div>
    <DayBar :actions="actions" />
    <p class="safety muted small">
      Nobody in line with wheels or straps; straps checked again after the first pulls. Gezeit controls no machine. Local codes and the
      cell’s rules come first.
    </p>
    <ChecklistDialog name="checks" list="beforeDay" />
    <ChecklistDialog name="before-swap" list="beforeSwap" @begin-swap="actions.beginSwap()" />
    <ChecklistDialog name="swap" list="afterSwap" />
    <ChecklistDialog name="end" list="atEnd" />
    <ReasonDialog @pull="actions.startPull" />
    <NoteDialog :clock="clock.text" :pull="selected" />
    <ChangedDialog />
    <ReadingsDialog />
    <FiguresDialog :pull="selected" />
    <PullDialog :pull="selected" :clock="clock.text" />
    <ZeroDialog />
    <FilesDialog :clock="clock.text" />
    <DevicesDialog />
    <InsertDialog />
    <StopDialog />
  </div>
</template>

<style scoped>
.cell {
  display: grid;
  gap: 0.25rem;
  padding-top: 0.3rem;
  padding-bottom: 0.6rem;
}
.under {
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(0, 1fr);
  gap: 1.4rem;
  border-top: 1px solid var(--line);
  padding-top: 0.3rem;
}
.repeat {
  color: var(--brick);
  font-weight: 650;
  font-size: 17px;
}
@media (max-width: 1000px) {
  .under {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
