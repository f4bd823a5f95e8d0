<script setup lang="ts">
import type { FileQuestion } from '@gezeit/contract';
import { nextPullId, offsetText } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import { api, ApiFailure } from '../../shared/api/client.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import { useProgramme } from '../../model/programme-store.js';
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
const pullOf = (file: string, proposed: string | null) => chosen.value[file] ?? proposed ?? NONE;

async function bring(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const files = [...(input.files ?? [])].sort((a, b) => a.lastModified - b.lastModified);
  try {
    for (const [i, file] of files.entries()) {
      busy.value = `${i + 1} of ${files.length}: ${file.name}`;
      await api.dayFile(programme.view!.id, file);
    }
    await api.dayMatch(programme.view!.id, true);
    await day.ask((id) => api.day(id));
  } catch (error) {
    day.failure = error instanceof ApiFailure ? error : new ApiFailure('The file could not be kept.', 'Try again.');
  } finally {
    busy.value = '';
    input.value = '';
  }
}

function agree({ device, offsetS, files }: FileQuestion): void {
  void day.act({
    kind: 'files-matched',
    device,
    offsetS,
    asked: true,
    matches: files.map(({ file, pull }) => ({ file, pull: pullOf(file, pull) === NONE ? null : pullOf(file, pull) })),
  });
}

/** A pull that nobody recorded, from its file: inserted where the file says, once the clock's offset is taken out. */
async function insert(question: FileQuestion, file: string): Promise<void> {
  const taken = day.state.files.find((entry) => entry.file === file)!;
  const startedMs = taken.madeAtMs - 1000 * (taken.lengthS - (taken.sweepsAtS[0] ?? 0)) - 1000 * (question.offsetS ?? 0);
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
    chosen.value[file] = id;
    await api.dayMatch(programme.view!.id, true).catch(() => undefined);
  }
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
      <li v-if="matched.length === 0" class="muted">
        No file has come yet. They are matched by order and by the gaps between pulls, not by clock alone.
      </li>
    </ul>
    <section v-for="question in questions" :key="question.device" class="question" :aria-label="`Files of ${question.device}`">
      <h3>{{ question.device }}: {{ question.why }}</h3>
      <div class="scroll">
        <table class="dense">
          <thead>
            <tr>
              <th>File</th>
              <th>Its clock</th>
              <th>Pull</th>
              <th><span class="visually-hidden">Insert</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="entry in question.files" :key="entry.file">
              <td>{{ entry.file.split('/').at(-1) }}</td>
              <td>{{ clock(entry.madeAtMs) }}</td>
              <td>
                <ChoiceInput
                  :model-value="pullOf(entry.file, entry.pull)"
                  :choices="pulls"
                  :label="`Pull of ${entry.file.split('/').at(-1)}`"
                  @update:model-value="chosen[entry.file] = $event"
                />
              </td>
              <td>
                <Button
                  v-if="pullOf(entry.file, entry.pull) === NONE"
                  outlined
                  size="small"
                  label="Insert the missed pull"
                  @click="insert(question, entry.file)"
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
