<script setup lang="ts">
import { recordingOfPull, STANDING_FOLDER, type ReadQuestion, type StagedKind } from '@gezeit/contract';
import Button from 'primevue/button';
import ProgressBar from 'primevue/progressbar';
import { computed, ref, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { provideShortcuts } from '../../shared/shortcuts.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { useStaged } from '../../model/staged-store.js';
import AskLine from './AskLine.vue';
import PlaceMenu from './PlaceMenu.vue';
import SortAbout from './SortAbout.vue';
import SortFiles from './SortFiles.vue';
import SortInto from './SortInto.vue';
import SortStrip from './SortStrip.vue';
import SortTable from './SortTable.vue';
import { freeSweeps, sayPull, type Sweep } from './sweeps.js';

/** Dropped exports brought to pulls: setups are painted over them, what cannot be decided is asked once, and then they are kept. */
const store = useStaged();
const route = useRoute();
const router = useRouter();
const id = computed(() => String(route.params['id']));
watch(id, (next) => void store.open(next), { immediate: true });

const selected = ref<string[]>([]);
const staged = computed(() => store.staged);
const decisions = computed(() => staged.value?.decisions ?? null);
const reading = computed(() => staged.value?.reading ?? null);
const timeZone = computed(() => decisions.value?.timeZone ?? 'UTC');
const startMs = computed(() => {
  const first = store.pulls[0]?.startedAt ?? null;
  if (first !== null) return Date.parse(/(Z|[+-]\d\d:\d\d)$/.test(first) ? first : `${first}Z`);
  const { day, firstAt } = decisions.value ?? {};
  return day && firstAt ? Date.parse(`${day}T${firstAt.padEnd(8, ':00')}Z`) : null;
});
const dateQuestion = computed(() => reading.value?.questions.find(({ about }) => about === 'date-order') ?? null);
const clockQuestions = computed(() => reading.value?.questions.filter(({ about }) => about === 'which-clock') ?? []);
const pullQuestions = computed(() => reading.value?.questions.filter(({ about }) => about === 'which-pull') ?? []);
const into = computed(() => staged.value?.into ?? null);
const fresh = computed(() => store.pulls.filter(({ stands }) => !stands));
const kept = computed(
  () =>
    fresh.value.filter(({ kind }) => kind !== 'left-out' && kind !== 'drive').length +
    new Set(fresh.value.filter(({ kind }) => kind === 'drive').map(recordingOfPull)).size,
);
const dropped = computed(() => reading.value!.files.filter(({ file }) => !file.startsWith(STANDING_FOLDER)).length);
const keepLabel = computed(() => (into.value ? 'Add to the programme' : `Keep ${counted(kept.value, 'pull')}`));
const counted = (count: number, what: string) => `${count} ${what}${count === 1 ? '' : 's'}`;

// Files are put into pulls by one menu, wherever they stand.
const placing = useTemplateRef<InstanceType<typeof PlaceMenu>>('placing');
const askPlace = (event: Event, sweep: Sweep) => placing.value!.ask(event, sweep);
const sweepsAsked = (files: readonly string[]) =>
  reading.value!.files.filter(({ file }) => files.includes(file)).flatMap((file) => freeSweeps(file, reading.value!.pulls));

function paint(change: { setup?: string; kind?: StagedKind }): void {
  if (selected.value.length > 0) void store.paint(selected.value, change);
}
/** The other time column is ignored in every file that is asked about. */
function sayClock({ files, choices }: ReadQuestion, right: string): void {
  const wrong = choices.find((header) => header !== right)!;
  const said = files.map(
    (file) => [`file:${file}`, { ...decisions.value!.channels?.[`file:${file}`], [wrong]: { ignore: true } }] as const,
  );
  void store.decide({ channels: { ...decisions.value!.channels, ...Object.fromEntries(said) } });
}
/** What the palette calls what can be done with the selected pulls; null where none is. */
const ofChosen = (says: (pulls: string) => string) => {
  const count = selected.value.length;
  return count === 0 ? null : says(count === 1 ? 'the selected pull' : `the ${count} selected pulls`);
};
function paintSetup(index: number): void {
  const { setups } = decisions.value!;
  if (selected.value.length === 0) return;
  const letter = String.fromCharCode(65 + index);
  const setup = setups[index] ?? { id: letter, name: `Part ${letter}` };
  void store.paint(selected.value, { setup: setup.id }, setups[index] ? setups : [...setups, setup]);
}
function step(by: number): void {
  const keys = store.pulls.map(({ key }) => key);
  const at = keys.indexOf(selected.value.at(-1) ?? '');
  const next = keys[at < 0 ? (by > 0 ? 0 : keys.length - 1) : Math.max(0, Math.min(keys.length - 1, at + by))];
  if (next) selected.value = [next];
}
async function keep(): Promise<void> {
  const programmeId = await store.keep();
  if (programmeId) await router.push({ name: into.value ? 'logs' : 'verdict', params: { id: programmeId }, query: { sorted: id.value } });
}
async function throwAway(): Promise<void> {
  if (await store.throwAway()) await router.push({ name: 'programmes' });
}

provideShortcuts([
  { keys: ['→'], what: 'Next pull', run: () => step(1) },
  { keys: ['←'], what: 'Pull before', run: () => step(-1) },
  {
    keys: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
    what: 'Paint the selected pulls with a setup',
    run: (key) => paintSetup(Number(key) - 1),
  },
  {
    keys: ['m'],
    what: 'They are measured',
    command: () => ofChosen((pulls) => `Make ${pulls} measured`),
    run: () => paint({ kind: 'measured' }),
  },
  {
    keys: ['c'],
    what: 'They are conditioning',
    command: () => ofChosen((pulls) => `Make ${pulls} conditioning`),
    run: () => paint({ kind: 'conditioning' }),
  },
  {
    keys: ['d'],
    what: 'All of their recording is one drive: laps or a long run',
    command: () => ofChosen((pulls) => `Make ${pulls} one drive: laps or a long run`),
    run: () => paint({ kind: 'drive' }),
  },
  { keys: ['x'], what: 'Leave them out', command: () => ofChosen((pulls) => `Leave out ${pulls}`), run: () => paint({ kind: 'left-out' }) },
  { keys: ['z'], what: 'Undo', command: () => (store.canUndo ? 'Undo the last decision' : null), run: () => void store.undo() },
]);
</script>

<template>
  <div class="page">
    <header class="top">
      <div>
        <h1>Sort what was dropped</h1>
        <p v-if="reading" class="muted">
          {{ counted(dropped, 'file')
          }}<template v-if="into"
            >: {{ counted(store.pulls.length - fresh.length, 'pull') }} in the programme, {{ fresh.length }} new.</template
          ><template v-else>, {{ counted(store.pulls.length, 'pull') }} found.</template> Nothing is kept yet; it waits here until you keep
          it or throw it away.
        </p>
        <SortInto v-if="reading" :into="into" @direct="store.direct($event)" />
      </div>
      <div v-if="reading" class="actions">
        <Button text label="Throw away" @click="throwAway()" />
        <Button
          :label="keepLabel"
          :disabled="(kept === 0 && !into) || store.keeping !== null || staged!.state === 'reading'"
          @click="keep()"
        />
      </div>
    </header>
    <FailureNote v-if="store.failure" :failure="store.failure" />
    <div v-if="staged?.error" class="note" role="alert">{{ staged.error.message }} {{ staged.error.nextStep }}</div>
    <div v-if="staged?.state === 'reading' || store.keeping !== null" class="progress" role="status">
      <p>{{ store.keeping !== null ? 'Keeping and judging' : 'Reading' }} <span class="muted">{{ staged?.detail }}</span></p>
      <ProgressBar
        :value="Math.round(100 * (store.keeping ?? staged?.progress ?? 0))"
        :show-value="false"
        style="height: 8px"
        aria-label="Progress"
      />
    </div>
    <template v-if="reading && decisions">
      <SortStrip
        v-if="store.pulls.length > 0"
        :pulls="store.pulls"
        :reading="reading"
        :setups="decisions.setups"
        :selected="selected"
        :start-ms="startMs"
        :time-zone="timeZone"
        @select="selected = $event"
      />
      <p v-else-if="clockQuestions.length === 0" class="note">
        No full-throttle sweep was found in these files. Look below at what their columns are taken for: often the engine speed was not
        known.
      </p>
      <p v-if="fresh.length > 0" class="small muted hint">
        Select posts (drag, or arrow keys) and press 1…9 for their setup, c conditioning, m measured, x leave out, z undo.
        <Button size="small" text icon="pi pi-undo" label="Undo" aria-keyshortcuts="z" :disabled="!store.canUndo" @click="store.undo()" />
      </p>
      <p v-if="store.proposed" class="small proposed" data-test="proposed">
        <template v-if="store.proposed.by === 'names'"
          >Proposed by the names of the files:
          <template v-for="({ id: letter, name }, i) in store.proposed.setups" :key="letter"
            ><template v-if="i > 0">, </template>{{ letter }} <b>{{ name }}</b></template
          >.</template
        ><template v-else>Proposed by the pauses: after each long one the other setup.</template> Look whether it was so.
      </p>
      <AskLine v-if="dateQuestion" :what="dateQuestion.what">
        <Button
          size="small"
          :outlined="decisions.dateOrder !== 'day-first'"
          :label="dateQuestion.choices[0]"
          @click="store.decide({ dateOrder: 'day-first' })"
        />
        <Button
          size="small"
          :outlined="decisions.dateOrder !== 'month-first'"
          :label="dateQuestion.choices[1]"
          @click="store.decide({ dateOrder: 'month-first' })"
        />
      </AskLine>
      <AskLine
        v-for="question in clockQuestions"
        :key="question.files.join()"
        :what="question.what"
        note="Left out until you say it; where a unit is wrong, correct it below."
      >
        <Button
          v-for="header in question.choices"
          :key="header"
          size="small"
          outlined
          :label="header"
          @click="sayClock(question, header)"
        />
      </AskLine>
      <AskLine v-for="question in pullQuestions" :key="question.what" :what="question.what" note="Left out until you say it.">
        <Button
          v-for="sweep in sweepsAsked(question.files)"
          :key="sweep.key"
          size="small"
          outlined
          v-bind="sayPull(sweep, sweepsAsked(question.files).length)"
          @click="askPlace($event, sweep)"
        />
      </AskLine>
      <PlaceMenu
        ref="placing"
        :pulls="store.pulls"
        :places="decisions.places"
        @place="(sweep, target) => store.place(sweep.key, target, sweep.wholeFile)"
      />
      <div class="desk">
        <SortTable
          v-if="store.pulls.length > 0"
          class="table"
          :pulls="store.pulls"
          :reading="reading"
          :setups="decisions.setups"
          :selected="selected"
          :time-zone="timeZone"
          @select="selected = $event"
          @paint="(keys, change) => store.paint(keys, change)"
          @ask="askPlace"
        />
        <SortAbout :key="id" :staged="staged!" />
      </div>
      <SortFiles :reading="reading" :channels="decisions.channels" @channels="store.decide({ channels: $event })" @ask="askPlace" />
    </template>
  </div>
</template>

<style scoped>
.top {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0.6rem 1.5rem;
  align-items: flex-start;
  margin-bottom: 0.8rem;
}
.top > :first-child {
  flex: 1 1 18rem;
}
h1 {
  font-size: 1.35rem;
}
.actions {
  display: flex;
  gap: 0.6rem;
  flex-shrink: 0;
}
.progress {
  margin: 0.5rem 0;
}
.hint {
  margin: 0.2rem 0 0.6rem;
}
.proposed {
  margin-bottom: 0.6rem;
}
.note {
  padding: 0.6rem 0;
}
.desk {
  display: grid;
  grid-template-columns: minmax(0, 1.9fr) minmax(17rem, 1fr);
  gap: 1.6rem;
  margin-bottom: 1rem;
}
@media (max-width: 900px) {
  .desk {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
