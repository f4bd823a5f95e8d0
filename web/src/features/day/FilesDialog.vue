<script setup lang="ts">
import type { DayHappening, DayMatch, FileQuestion } from '@gezeit/contract';
import { nextPullId, offsetText, weatherAt } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import { api, ApiFailure } from '../../shared/api/client.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import { useProgramme } from '../../model/programme-store.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** Files of the day: brought by hand, matched to pulls by order and gaps, and asked about where the count does not match. */
defineProps<{ clock: (ms: number) => string }>();
const day = useDay();
const programme = useProgramme();
const busy = ref('');
const NONE = 'none';
const chosen = ref<Record<string, string>>({});
const pulls = computed(() => ({
  [NONE]: 'no pull of today',
  ...Object.fromEntries(day.state.pulls.map(({ id, setup, kind }) => [id, `${id} ${setup}, ${kind}`])),
}));
const keyOf = ({ file, sweep }: DayMatch) => `${file}#${sweep ?? ''}`;
const pullOf = (match: DayMatch) => chosen.value[keyOf(match)] ?? match.pull ?? NONE;
const nameOf = (file: string) => file.split('/').at(-1)!;
/** How a row is called: by its file, and by its time where that holds more than one. */
const rowName = ({ files }: FileQuestion, entry: FileQuestion['files'][number], clock: (ms: number) => string) =>
  files.filter(({ file }) => file === entry.file).length > 1 ? `${nameOf(entry.file)} at ${clock(entry.atMs)}` : nameOf(entry.file);
/** What keeps every file from being taken: said once, and no other file is tried. */
const OF_ALL_FILES = ['no-day', 'held-elsewhere', 'unreachable'];
/** Files that could not be taken, each with why: the others are. */
const refused = ref<ApiFailure[]>([]);

async function bring(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const files = [...(input.files ?? [])].sort((a, b) => a.lastModified - b.lastModified);
  refused.value = [];
  try {
    // What follows from them is judged once, and not after every file.
    await day.grows(() => bringAll(programme.view!.id, files));
    await day.ask((id) => api.day(id));
  } catch (error) {
    day.failure = ApiFailure.of(error, 'The files could not be brought.', 'Try again.');
  } finally {
    busy.value = '';
    input.value = '';
  }
}

async function bringAll(id: string, files: readonly File[]): Promise<void> {
  for (const [i, file] of files.entries()) {
    busy.value = `${i + 1} of ${files.length}: ${file.name}`;
    try {
      await api.dayFile(id, file);
    } catch (error) {
      if (!(error instanceof ApiFailure) || OF_ALL_FILES.includes(error.code)) throw error;
      refused.value.push(new ApiFailure(`${file.name}: ${error.message}`, error.nextStep, '', error.code));
    }
  }
  await api.dayMatch(id, true);
}

function agree({ device, offsetS, files }: FileQuestion): void {
  void day.act({
    kind: 'files-matched',
    device,
    offsetS,
    asked: true,
    matches: files.map((match) => ({ file: match.file, sweep: match.sweep, pull: pullOf(match) === NONE ? null : pullOf(match) })),
  });
}

/** A pull that nobody recorded, from its file: inserted where the file says, once the clock's offset is taken out. */
async function insert(question: FileQuestion, match: FileQuestion['files'][number]): Promise<void> {
  const startedMs = match.atMs - 1000 * (question.offsetS ?? 0);
  const before = day.state.pulls.findLast((pull) => pull.startedMs < startedMs);
  const id = nextPullId(day.bundle, day.state);
  const { stamp, weather } = before?.begun ?? { stamp: {}, weather: null };
  const missed = {
    kind: 'pull-started' as const,
    pull: id,
    setup: before?.setup ?? day.state.fitted!,
    pullKind: 'measured' as const,
    place: null,
    stamp: Object.fromEntries(Object.keys(stamp).map((key) => [key, null])),
    weather,
    start: { coolantC: null, intakeAirC: null, oilC: null },
    anyway: null,
    cause: 'file' as const,
  };
  if (await day.actAt(startedMs, missed)) {
    chosen.value[keyOf(match)] = id;
    await api.dayMatch(programme.view!.id, true).catch(() => undefined);
  }
}

/** Files of the weather, with the pulls that they know the air of and which have another. */
const weather = computed(() =>
  day.state.files.flatMap((file) => {
    if (file.device !== 'weather') return [];
    const known = day.state.pulls.flatMap((pull) => {
      const air = weatherAt(file, pull.startedMs);
      return air ? [{ pull, air }] : [];
    });
    const others = known.filter(({ pull, air }) => JSON.stringify(pull.begun.weather) !== JSON.stringify(air));
    const [fromMs, toMs] = [file.madeAtMs - 1000 * file.lengthS, file.madeAtMs];
    return [{ file: file.file, fromMs, toMs, holds: file.weather != null, known: known.length, others }];
  }),
);
function useWeather({ others }: (typeof weather.value)[number]): void {
  void day.act(...others.map(({ pull, air }): DayHappening => ({ kind: 'pull-amended', pull: pull.id, weather: air })));
}

/** Asked once all files that are being brought are there. */
const questions = computed(() => (busy.value === '' ? (day.view?.questions ?? []) : []));
const matched = computed(() =>
  [...day.state.matches.values()].map(({ device, offsetS, matches }) => ({
    device,
    count: matches.filter(({ pull }) => pull !== null).length,
    offset: offsetS === null ? '' : offsetText(offsetS),
  })),
);
</script>

<template>
  <CellDialog name="files" header="Files of the day" width="46rem">
    <label class="bring">
      Bring files (a memory stick, an export)
      <input type="file" multiple accept=".csv,.txt,.tsv,.log,.dat" @change="bring" />
    </label>
    <p v-if="busy" role="status">Reading {{ busy }}…</p>
    <ul class="matched" aria-label="Matched files">
      <li v-for="entry in matched" :key="entry.device">
        <b>{{ entry.device }}</b>: {{ entry.count }} pulls have their file; {{ entry.offset }}.
      </li>
      <li v-for="entry in weather" :key="entry.file">
        <b>{{ nameOf(entry.file) }}</b>: the air from {{ clock(entry.fromMs) }} to {{ clock(entry.toMs) }}.
        <template v-if="!entry.holds">It holds neither temperature nor pressure.</template>
        <template v-else>{{ entry.known - entry.others.length }} of {{ day.state.pulls.length }} pulls have it.</template>
        <Button
          v-if="entry.others.length > 0"
          outlined
          size="small"
          :label="entry.others.length === 1 ? 'Use it for one more pull' : `Use it for ${entry.others.length} more pulls`"
          @click="useWeather(entry)"
        />
      </li>
      <li v-if="matched.length === 0 && weather.length === 0" class="muted">
        No file has come yet. They are matched by order and by the gaps between pulls, not by clock alone. Dropped on the page instead, they
        are sorted by hand first.
      </li>
    </ul>
    <FailureNote v-for="entry in refused" :key="entry.message" :failure="entry" />
    <section v-for="question in questions" :key="question.device" class="question" :aria-label="`Files of ${question.device}`">
      <h3>{{ question.device }}: {{ question.why }}</h3>
      <div class="scroll">
        <table class="dense">
          <thead>
            <tr>
              <th>File</th>
              <th>Its pull began, by its clock</th>
              <th>Pull</th>
              <th><span class="visually-hidden">Insert</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="entry in question.files" :key="keyOf(entry)">
              <td>{{ nameOf(entry.file) }}</td>
              <td>{{ clock(entry.atMs) }}</td>
              <td>
                <ChoiceInput
                  :model-value="pullOf(entry)"
                  :choices="pulls"
                  :label="`Pull of ${rowName(question, entry, clock)}`"
                  @update:model-value="chosen[keyOf(entry)] = $event"
                />
              </td>
              <td>
                <Button
                  v-if="pullOf(entry) === NONE"
                  outlined
                  size="small"
                  label="Insert the missed pull"
                  @click="insert(question, entry)"
                />
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <Button class="agree" :label="`So it is, for ${question.device}`" @click="agree(question)" />
    </section>
    <template #actions><Button text label="Close" @click="day.dialog = null" /></template>
  </CellDialog>
</template>

<style scoped>
.bring {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  /* Room for the ring of what has the focus. */
  padding: 4px 0;
}
.matched {
  list-style: none;
  padding: 0;
  margin: 0.6rem 0;
}
.question {
  border-left: 4px solid var(--amber);
  padding-left: 0.8rem;
  margin: 0.8rem 0;
}
h3 {
  font-size: 1rem;
  margin: 0 0 0.4rem;
}
.scroll {
  max-height: 20rem;
  overflow: auto;
}
.agree {
  min-height: 48px;
  margin-top: 0.5rem;
}
</style>
