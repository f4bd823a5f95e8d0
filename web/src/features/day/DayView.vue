<script setup lang="ts">
import type { DayHappening } from '@gezeit/contract';
import { gatesFor, oneWayFrom, openItems, pullStart } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { RouterLink, useRouter } from 'vue-router';
import { provideShortcuts } from '../../shared/shortcuts.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../programme/programme-store.js';
import ChangedDialog from './ChangedDialog.vue';
import ChecklistDialog from './ChecklistDialog.vue';
import DaySays from './DaySays.vue';
import DayStrip from './DayStrip.vue';
import DevicesDialog from './DevicesDialog.vue';
import FiguresDialog from './FiguresDialog.vue';
import FilesDialog from './FilesDialog.vue';
import GateReadouts from './GateReadouts.vue';
import InsertDialog from './InsertDialog.vue';
import LastPull from './LastPull.vue';
import NoteDialog from './NoteDialog.vue';
import PullDialog from './PullDialog.vue';
import ReadingsDialog from './ReadingsDialog.vue';
import ReasonDialog from './ReasonDialog.vue';
import RigPanel from './RigPanel.vue';
import StopDialog from './StopDialog.vue';
import ZeroDialog from './ZeroDialog.vue';
import { nextSteps, reasonOf, titleOf } from './day-words.js';
import { useDay } from './day-store.js';
import { useWakeLock } from './use-wake-lock.js';

/** The screen for the cell: one thing to do now, why, and everything that it follows from. */
const day = useDay();
const programme = useProgramme();
const show = useShow();
const router = useRouter();
const chosen = ref<string | null>(null);

// Another programme's day is another day: the screen follows the address.
watch(
  () => programme.view?.id,
  (id) => id && day.open(id),
);
onMounted(() => day.open(programme.view!.id));
onBeforeUnmount(() => day.close());
useWakeLock();

const zone = computed(() => (programme.view!.bundle.cells?.[0] ?? programme.view!.bundle.cell)?.timeZone ?? undefined);
const format = computed(() => {
  const options: Intl.DateTimeFormatOptions = { hour: 'numeric', minute: '2-digit', hourCycle: 'h23' };
  try {
    return new Intl.DateTimeFormat('en-GB', { ...options, timeZone: zone.value });
  } catch {
    return new Intl.DateTimeFormat('en-GB', options);
  }
});
const clock = (ms: number) => format.value.format(ms);
const nameOf = (id: string) => `${id} ${programme.setupById.get(id)?.setup.name ?? ''}`.trim();
const instruction = computed(() => day.instruction);
const tone = computed(() => ({ stop: 'stop', wait: 'wait', check: 'wait' })[instruction.value.kind as 'stop'] ?? 'act');
const title = computed(() => titleOf(instruction.value, day.state.running?.id ?? null));
const counted = computed(() => {
  const all = day.state.day === null ? (day.bundle.plan?.pulls ?? []) : day.state.steps;
  return all.length;
});
const reason = computed(() => reasonOf(instruction.value, day.state, show.value, clock, day.nowMs, counted.value));
const then = computed(() => nextSteps(instruction.value, day.shown.remaining, day.shown.swapping?.to ?? day.shown.fitted, 3));
const held = computed(() => new Set(gatesFor(day.gates, instruction.value.step?.kind ?? 'measured').map(({ id }) => id)));
const selected = computed(
  () =>
    day.state.running?.id ?? (day.state.pulls.some(({ id }) => id === chosen.value) ? chosen.value : (day.state.pulls.at(-1)?.id ?? null)),
);
// A new pull takes the screen: what was chosen before it is an old story.
watch(
  () => day.state.pulls.length,
  () => (chosen.value = null),
);

const weather = computed(() => {
  const read = (quantity: string) => day.readings.find((entry) => entry.quantity === quantity)?.value ?? null;
  const typed = day.state.weather?.value;
  const temperatureC = read('ambientTemperature') ?? typed?.temperatureC ?? null;
  const pressurePa = read('ambientPressure');
  const pressureKPa = pressurePa === null ? (typed?.pressureKPa ?? null) : pressurePa / 1000;
  const humidity = read('relativeHumidity') ?? typed?.relativeHumidityPct ?? null;
  return [
    temperatureC === null ? null : `${show.value.temperature(temperatureC)} ${show.value.units.temperature}`,
    pressureKPa === null ? null : `${show.value.pressure(pressureKPa, 3)} ${show.value.units.pressure}`,
    humidity === null ? null : `${Math.round(humidity)} %`,
  ].filter(Boolean);
});

/** The day's name: the date in the cell's own zone, with a number where that day has been before. */
function dayName(): string {
  const date = new Intl.DateTimeFormat('sv-SE', { timeZone: zone.value, dateStyle: 'short' }).format(day.nowMs);
  const known = new Set(programme.view!.bundle.pulls.map((pull) => pull.day ?? pull.startedAt.slice(0, 10)));
  let name = date;
  for (let i = 2; known.has(name); i++) name = `${date} (${i})`;
  return name;
}
const begin = () => day.act({ kind: 'begun', day: dayName(), pulls: day.bundle.plan?.pulls ?? [], fitted: null });

function startPull(anyway: string | null): void {
  void day.act(pullStart(day.state, day.bundle, day.cell, instruction.value, anyway, 'key')).then((done) => done && (day.dialog = null));
}
function togglePull(): void {
  const { running } = day.state;
  if (running) void day.act({ kind: 'pull-ended', pull: running.id, aborted: false, cause: 'key' });
  else if (instruction.value.kind === 'pull') startPull(null);
  else if (['wait', 'swap', 'finish'].includes(instruction.value.kind)) day.dialog = 'anyway';
}
function abort(): void {
  const { running } = day.state;
  if (running) void day.act({ kind: 'pull-ended', pull: running.id, aborted: true, reason: 'aborted', cause: 'key' });
  else if (day.state.pulls.at(-1)) void day.act({ kind: 'pull-amended', pull: day.state.pulls.at(-1)!.id, aborted: true });
}
const confirming = ref(false);
function swap(): void {
  if (day.state.swapping) {
    day.dialog = 'swap';
    return;
  }
  const to = instruction.value.step?.setup;
  if (!to || to === day.state.fitted) return;
  if (oneWayFrom(day.bundle, day.state.fitted, to) && !confirming.value) {
    confirming.value = true;
    return;
  }
  const happening: DayHappening = { kind: 'swap-started', to, confirmed: confirming.value };
  confirming.value = false;
  void day.act(happening);
}
function repeat(): void {
  const last = day.state.pulls.at(-1);
  if (last) void day.act({ kind: 'inserted', setup: last.setup, pullKind: last.kind, count: 1 });
}
function skip(): void {
  const step = day.state.remaining[0];
  if (step) void day.act({ kind: 'skipped', place: step.place });
}
function undo(): void {
  const last = day.state.lastUndoable;
  if (last) void day.act({ kind: 'taken-back', event: last.id });
}
const repeats = computed(() => {
  const last = day.state.pulls.at(-1);
  return last?.kind === 'measured' && !last.aborted && !last.typed && day.checksOf(last.id).some(({ state }) => state === 'bad');
});

/** The one action of the moment. */
const primary = computed<{ label: string; key: string; run: () => void } | null>(() => {
  switch (instruction.value.kind) {
    case 'plan':
      return { label: 'Open Plan', key: 'Enter', run: () => void router.push({ name: 'plan', params: { id: programme.view!.id } }) };
    case 'begin':
      return { label: 'Begin the day', key: 'Enter', run: () => void begin() };
    case 'ended':
      return {
        label: 'See the verdict',
        key: 'Enter',
        run: () => void router.push({ name: 'verdict', params: { id: programme.view!.id } }),
      };
    case 'stop':
      return { label: 'Acknowledge the stop', key: 'Enter', run: () => void day.act({ kind: 'stop-acknowledged' }) };
    case 'check':
      return { label: 'Go through the list', key: 'Enter', run: () => (day.dialog = 'checks') };
    case 'driving':
      return { label: 'End this pull', key: 'p', run: togglePull };
    case 'swap':
      return { label: confirming.value ? `${day.state.fitted} is finished: swap` : 'The swap begins', key: 's', run: swap };
    case 'swapping':
      return { label: 'Swap done…', key: 's', run: swap };
    case 'pull':
      return { label: 'The pull starts', key: 'p', run: togglePull };
    case 'finish':
      return { label: 'Put back, end the day…', key: 'e', run: () => (day.dialog = 'end') };
    default:
      return null;
  }
});
const running = computed(() => day.state.day !== null && day.state.endedMs === null);
const beforePull = computed(() => openItems(day.bundle, day.state, 'beforePull').map(({ text }) => text));
const questions = computed(() => day.view?.questions.length ?? 0);
const underWay = computed(() => (day.view?.others ?? []).filter((other) => other.running));

const key = (name: string, what: string, run: () => void) => ({ keys: [name], what, run });
provideShortcuts([
  key('Enter', 'do what the screen says', () => primary.value?.run()),
  key('p', 'the pull starts, or ends', togglePull),
  key('a', 'aborted: lift or knock; kept, not counted', abort),
  key('s', 'the swap begins, or is done', swap),
  key('r', 'repeat the last pull', repeat),
  key('k', 'skip the next pull', skip),
  key('i', 'insert a pull', () => running.value && (day.dialog = 'insert')),
  key('h', 'stop, with the reason', () => running.value && (day.dialog = 'stop')),
  key('n', 'note', () => running.value && (day.dialog = 'note')),
  key('c', 'something changed', () => running.value && (day.dialog = 'changed')),
  key('t', 'type readings', () => running.value && (day.dialog = 'readings')),
  key('0', 'zero of the pressure channels', () => running.value && (day.dialog = 'zero')),
  key('o', 'open the selected pull', () => selected.value && (day.dialog = 'pull')),
  key('f', 'files', () => (day.dialog = 'files')),
  key('d', 'devices', () => (day.dialog = 'devices')),
  key('l', 'list before the day', () => running.value && (day.dialog = 'checks')),
  key('e', 'end the day', () => running.value && (day.dialog = 'end')),
  key('z', 'take the last thing back', undo),
  { keys: [',', '←'], what: 'the pull before', run: () => step(-1) },
  { keys: ['.', '→'], what: 'the next pull', run: () => step(1) },
]);
function step(by: 1 | -1): void {
  const ids = day.state.pulls.map(({ id }) => id);
  const at = ids.indexOf(selected.value ?? '');
  if (ids.length > 0) chosen.value = ids[Math.max(0, Math.min(ids.length - 1, at + by))]!;
}
</script>

<template>
  <div class="page cell" :class="tone">
    <h1 class="visually-hidden">Day</h1>
    <header class="line">
      <span
        >{{ day.state.fitted ? nameOf(day.state.fitted) : ''
        }}<template v-if="day.state.day"> · {{ day.state.pulls.length }} of {{ counted }} driven</template
        ><template v-if="instruction.step?.inserted"> · out of plan</template></span
      >
      <span class="right"
        ><b data-clock>{{ clock(day.nowMs) }}</b> <span v-for="part in weather" :key="part!">{{ part }}</span><span
          v-if="!day.connected"
          class="lost"
          role="status"
          >No answer from Gezeit: {{ day.outbox.length }} kept here</span
        ><span v-else-if="day.outbox.length > 0" role="status">sending…</span> <span>emergency stop: the cell’s own button</span></span
      >
    </header>
    <FailureNote v-if="day.failure && day.dialog === null" :failure="day.failure" />
    <section class="now" aria-label="What to do now">
      <div class="say">
        <p class="title" :data-instruction="instruction.kind" role="status">{{ title }}</p>
        <p class="reason">{{ reason }}</p>
      </div>
      <div class="then" aria-label="Then">
        <span class="muted">Then</span>
        <p v-for="(entry, i) in then" :key="i">
          {{ entry.text }}
          <span :style="{ color: programme.setupById.get(entry.setup)?.colour }"
            ><b>{{ entry.setup }}</b> {{ programme.setupById.get(entry.setup)?.setup.name }}</span
          >
        </p>
        <p v-if="then.length === 0" class="muted">{{ day.state.day ? 'nothing more is planned' : '' }}</p>
      </div>
    </section>
    <GateReadouts :gates="instruction.gates" :held="held" />
    <DayStrip :clock="clock" :selected="selected" @select="chosen = $event" />
    <div class="under">
      <LastPull :pull="selected">
        <p v-if="repeats" class="repeat">Repeat it now (r): at the desk it is too late.</p>
        <p v-if="instruction.kind === 'pull' && beforePull.length > 0" class="muted small">Before it: {{ beforePull.join(' · ') }}.</p>
      </LastPull>
      <DaySays />
    </div>
    <nav class="bar" aria-label="What can be done">
      <Button v-if="primary" class="primary" :label="primary.label" :aria-keyshortcuts="primary.key" @click="primary.run()" />
      <template v-if="running">
        <Button outlined label="Note" aria-keyshortcuts="n" @click="day.dialog = 'note'" />
        <Button outlined label="Repeat last" aria-keyshortcuts="r" :disabled="day.state.pulls.length === 0" @click="repeat" />
        <Button outlined label="Skip" aria-keyshortcuts="k" :disabled="day.state.remaining.length === 0" @click="skip" />
        <Button outlined label="Aborted" aria-keyshortcuts="a" :disabled="day.state.pulls.length === 0" @click="abort" />
        <Button outlined label="Changed" aria-keyshortcuts="c" @click="day.dialog = 'changed'" />
        <Button outlined label="Readings" aria-keyshortcuts="t" @click="day.dialog = 'readings'" />
        <Button outlined label="Insert" aria-keyshortcuts="i" @click="day.dialog = 'insert'" />
        <Button
          outlined
          label="Pull"
          aria-keyshortcuts="o"
          aria-label="Open the selected pull"
          :disabled="!selected"
          @click="day.dialog = 'pull'"
        />
        <Button
          outlined
          label="Undo"
          aria-keyshortcuts="z"
          aria-label="Take the last thing back"
          :disabled="!day.state.lastUndoable"
          @click="undo"
        />
        <Button outlined label="Stop" aria-keyshortcuts="h" aria-label="Stop, with the reason" @click="day.dialog = 'stop'" />
        <Button outlined label="End" aria-keyshortcuts="e" aria-label="End the day" @click="day.dialog = 'end'" />
      </template>
      <Button v-if="!running" outlined label="Devices" aria-keyshortcuts="d" @click="day.dialog = 'devices'" />
      <span class="spacer" />
      <Button
        v-if="instruction.kind === 'wait' || instruction.kind === 'swap'"
        text
        severity="secondary"
        label="Pull anyway…"
        @click="day.dialog = 'anyway'"
      />
      <Button v-if="instruction.kind === 'ended'" outlined label="Begin another day" @click="begin" />
    </nav>
    <div class="bar second">
      <Button v-if="running" outlined label="Zero" aria-keyshortcuts="0" @click="day.dialog = 'zero'" />
      <Button
        outlined
        :label="questions > 0 ? `Files: ${questions} to answer` : 'Files'"
        :class="{ asks: questions > 0 }"
        aria-keyshortcuts="f"
        @click="day.dialog = 'files'"
      />
      <Button v-if="running" outlined label="Devices" aria-keyshortcuts="d" @click="day.dialog = 'devices'" />
      <RouterLink v-for="other in underWay" :key="other.id" class="other" :to="{ name: 'day', params: { id: other.id } }"
        >Day under way too: {{ other.title }}</RouterLink
      >
      <RigPanel />
    </div>
    <p class="safety muted small">
      Nobody in line with wheels or straps; straps checked again after the first pulls. Gezeit controls no machine. Local codes and the
      cell’s rules come first.
    </p>
    <ChecklistDialog name="checks" list="beforeDay" />
    <ChecklistDialog name="swap" list="afterSwap" />
    <ChecklistDialog name="end" list="atEnd" />
    <ReasonDialog @pull="startPull" />
    <NoteDialog :clock="clock" :pull="selected" />
    <ChangedDialog />
    <ReadingsDialog />
    <FiguresDialog :pull="selected" />
    <PullDialog :pull="selected" :clock="clock" />
    <ZeroDialog />
    <FilesDialog :clock="clock" />
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
.line {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  color: var(--muted);
  font-size: 16px;
}
.right {
  display: flex;
  flex-wrap: wrap;
  gap: 0 1rem;
}
.right b {
  color: var(--ink);
}
.lost {
  color: var(--brick);
  font-weight: 650;
}
.now {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(16rem, 25.5rem);
  gap: 1.4rem;
}
.title {
  font-size: 120px;
  line-height: 1.04;
  font-weight: 750;
  letter-spacing: -0.02em;
  white-space: nowrap;
  color: var(--green);
  font-variant-numeric: tabular-nums;
}
.wait .title {
  color: var(--amber);
}
.stop .title {
  color: var(--brick);
}
.reason {
  font-size: 32px;
  line-height: 1.15;
}
.then {
  border-left: 1px solid var(--line);
  padding-left: 1.2rem;
  font-size: 28px;
  line-height: 1.25;
}
.then .muted {
  font-size: 16px;
}
.then p {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
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
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}
.bar:not(.second) {
  position: sticky;
  bottom: 0;
  z-index: 5;
  background: var(--ground);
  padding: 0.3rem 0;
}
.bar :deep(.p-button) {
  min-height: 48px;
  min-width: 48px;
  padding: 0 0.55rem;
  font-size: 15.5px;
}
.bar :deep(.p-button[aria-keyshortcuts])::after {
  content: attr(aria-keyshortcuts);
  margin-left: 0.35rem;
  opacity: 0.7;
  font-size: 13px;
}
.bar .asks {
  border-color: var(--amber);
  color: var(--amber);
}
.spacer {
  flex: 1;
}
@media (max-width: 1000px) {
  .now,
  .under {
    grid-template-columns: minmax(0, 1fr);
  }
  .title {
    font-size: clamp(56px, 13vw, 124px);
    white-space: normal;
  }
  .reason {
    font-size: clamp(20px, 3.4vw, 32px);
  }
}
@media (max-width: 700px) {
  .bar:not(.second) {
    position: static;
  }
}
@media (min-width: 1700px) {
  .now {
    grid-template-columns: minmax(0, 1fr) 40rem;
  }
  .title {
    font-size: 190px;
  }
  .reason {
    font-size: 44px;
  }
  .then {
    font-size: 40px;
  }
}
</style>
