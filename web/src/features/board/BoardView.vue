<script setup lang="ts">
import type { BoardEntry, StagedList } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed, onMounted, onUnmounted, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { RouterLink } from 'vue-router';
import { api, ApiFailure } from '../../shared/api/client.js';
import { dayWords } from '../../shared/day-words.js';
import { saveTable, saveText, svgText } from '../../shared/save.js';
import { useNarrow } from '../../shared/charts/use-narrow.js';
import ChartFrame from '../../shared/charts/ChartFrame.vue';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { usePerson } from '../../shared/person-store.js';
import { useRefocus } from '../../shared/use-refocus.js';
import { useImport } from '../../model/import-store.js';
import { useNewProgramme } from '../../model/new-programme-store.js';
import BoardChart from './BoardChart.vue';
import BoardFigures from './BoardFigures.vue';
import { useShow } from '../../shared/units/use-show.js';
import { QUESTION_LABELS, withAnswerWords } from '@gezeit/core';

/** The board: every programme's present answer on one common scale. */
const importing = useImport();
const beginning = useNewProgramme();
const person = usePerson();
const showArchived = ref(false);
const all = shallowRef<BoardEntry[] | null>(null);
const show = useShow();
const isNarrow = useNarrow(900);
const sought = ref('');
const outOfDateOnly = ref(false);
/** What is looked for, of all there are. */
const found = computed(() => {
  const words = sought.value.toLowerCase().split(/\s+/);
  return (
    all.value?.filter(({ archived, fixed, title, question, vehicle, cell }) => {
      const text = `${title} ${question} ${vehicle} ${cell}`.toLowerCase();
      return (
        (showArchived.value || !archived) && (!outOfDateOnly.value || fixed.outOfDate > 0) && words.every((word) => text.includes(word))
      );
    }) ?? null
  );
});
/** So many are drawn at first, and so many more whenever the end of them is reached. */
const STEP = 40;
/** With so many a field to look among them is in the way. */
const FEW = 6;
const drawn = ref(STEP);
const programmes = computed(() => found.value && withAnswerWords(found.value.slice(0, drawn.value), show.value.words));
const hiddenCount = computed(() => (found.value?.length ?? 0) - (programmes.value?.length ?? 0));
watch([sought, outOfDateOnly, showArchived], () => (drawn.value = STEP));
const end = useTemplateRef<HTMLElement>('end');
const atEnd = new IntersectionObserver(([seen]) => seen!.isIntersecting && (drawn.value += STEP), { rootMargin: '400px' });
// Observed anew after each step: where the end is still in sight, it is told again.
watch(
  [end, drawn],
  ([element]) => {
    atEnd.disconnect();
    if (element) atEnd.observe(element);
  },
  { flush: 'post' },
);
onUnmounted(() => atEnd.disconnect());
const outOfDateCount = computed(() => all.value?.filter(({ fixed }) => fixed.outOfDate > 0).length ?? 0);
const judgingCount = computed(() => all.value?.filter(({ judging }) => judging).length ?? 0);
const archivedCount = computed(() => all.value?.filter(({ archived }) => archived).length ?? 0);
const failure = shallowRef<ApiFailure | null>(null);
const chart = useTemplateRef<InstanceType<typeof BoardChart>>('chart');
const hovered = ref<string | null>(null);
const waiting = shallowRef<StagedList['staged']>([]);

const UNREADABLE = new ApiFailure('The board could not be read.', 'Reload the page; if it happens again, report it.');
/** How often the board is asked for again while answers are judged anew, ms. */
const FOLLOWS_MS = 1000;
let following: ReturnType<typeof setTimeout> | undefined;
onUnmounted(() => clearTimeout(following));
async function load(): Promise<void> {
  failure.value = null;
  try {
    all.value = (await api.board(() => (failure.value = UNREADABLE))).programmes;
    clearTimeout(following);
    if (judgingCount.value > 0) following = setTimeout(load, FOLLOWS_MS);
  } catch (error) {
    failure.value = ApiFailure.of(error, 'The board could not be read.', 'Reload the page.');
  }
}
/** What waits to be sorted is asked for once the board is drawn: its answer is checked, and what checks comes late. */
async function loadWaiting(): Promise<void> {
  await new Promise((resolve) => setTimeout(resolve, ONCE_DRAWN_MS));
  const answer = await api.stagedList().catch(() => null);
  if (answer) waiting.value = answer.staged;
}
const ONCE_DRAWN_MS = 400;
onMounted(loadWaiting);
onMounted(load);
// Another tab or the command may have changed the board meanwhile.
useRefocus(load);
watch(() => importing.finished, load);

async function bringBack(id: string): Promise<void> {
  if (!(await person.ensure())) return;
  try {
    all.value = (await api.archive(id, false)).programmes;
  } catch (error) {
    failure.value = ApiFailure.of(error, 'It could not be brought back.', 'Try again.');
  }
}

const day = ({ lastPullAt, judging }: BoardEntry) => {
  if (lastPullAt) return dayWords(lastPullAt);
  return judging ? '…' : 'nothing run yet';
};
function saveCsv(): void {
  const rows = (found.value ?? []).flatMap((entry) => entry.answers.map((answer) => ({ entry, answer })));
  const columns = [
    { header: 'programme', values: rows.map(({ entry }) => entry.title) },
    { header: 'candidate', values: rows.map(({ answer }) => answer.candidateName) },
    { header: 'question', values: rows.map(({ answer }) => (answer.kind ? QUESTION_LABELS[answer.kind] : '')) },
    { header: 'answer', values: rows.map(({ answer }) => answer.answer) },
    { header: 'estimate', values: rows.map(({ answer }) => answer.estimate) },
    { header: 'low', values: rows.map(({ answer }) => answer.low) },
    { header: 'high', values: rows.map(({ answer }) => answer.high) },
    { header: 'unit', values: rows.map(({ answer }) => (answer.unit === 'pct' ? '%' : answer.unit)) },
    { header: 'smallest that matters', values: rows.map(({ answer }) => answer.smallest) },
  ];
  void saveTable('board.csv', columns);
}
</script>

<template>
  <div class="page">
    <div class="head">
      <h1>Programmes</h1>
      <span class="tools">
        <input
          v-if="all && all.length > FEW"
          v-model="sought"
          type="search"
          class="seek"
          placeholder="Find: part, car, cell"
          aria-label="Show programmes that name"
        />
        <Button
          v-if="outOfDateCount || outOfDateOnly"
          text
          size="small"
          :label="outOfDateOnly ? 'Show all' : `Show ${outOfDateCount} out of date`"
          @click="outOfDateOnly = !outOfDateOnly"
        />
        <Button
          v-if="archivedCount"
          text
          size="small"
          :label="showArchived ? 'Hide what is put away' : `Show ${archivedCount} put away`"
          @click="showArchived = !showArchived"
        />
        <Button outlined icon="pi pi-download" label="Bring files in" @click="importing.start()" />
        <Button icon="pi pi-plus" label="New programme" @click="beginning.open = true" />
      </span>
    </div>
    <ul v-if="waiting.length > 0" class="waiting" aria-label="Dropped files that wait to be sorted">
      <li v-for="entry in waiting" :key="entry.id">
        <RouterLink :to="{ name: 'sort', params: { id: entry.id } }">{{ entry.title }}</RouterLink>
        <span class="muted">
          waits to be sorted{{ entry.pulls === null ? '' : `: ${entry.pulls} ${entry.pulls === 1 ? 'pull' : 'pulls'}` }}</span
        >
      </li>
    </ul>
    <FailureNote v-if="failure" :failure="failure"><Button text size="small" label="Try again" @click="load" /></FailureNote>
    <p v-else-if="!programmes" class="muted" aria-busy="true">Reading the board…</p>
    <p v-else-if="programmes.length === 0 && all?.length" class="muted">
      None of {{ all.length }} programmes {{ sought.trim() ? `names “${sought.trim()}”` : 'is shown' }}.
    </p>
    <div v-else-if="programmes.length === 0" class="empty">
      <p>
        <strong>No programme yet.</strong> A programme is one question about one part on one car. Begin one, or drop the exports of a test
        day on this page: they are read, and you sort them. A bundle (a folder or .zip with gezeit.json) opens as it is.
      </p>
      <span class="tools">
        <Button label="New programme" @click="beginning.open = true" />
        <Button outlined label="Bring files in" @click="importing.start()" />
      </span>
    </div>
    <template v-else>
      <p v-if="judgingCount" class="muted" role="status">{{ judgingCount }} of {{ all?.length }} are being judged anew.</p>
      <ChartFrame
        name="board"
        title="Present answers"
        subtitle="difference in the band, divided by the smallest that matters"
        @save-svg="chart?.svg && saveText('board.svg', 'image/svg+xml', svgText(chart.svg))"
        @save-csv="saveCsv"
      >
        <div class="board">
          <ol class="entries">
            <li
              v-for="entry in programmes"
              :key="entry.id"
              :style="{ height: `${BoardChart.rowHeight(entry)}px` }"
              :class="{ hovered: hovered === entry.id }"
              @pointerenter="hovered = entry.id"
              @pointerleave="hovered = null"
            >
              <RouterLink
                class="name"
                :to="{ name: entry.pullsDriven > 0 || entry.judging ? 'verdict' : 'question', params: { id: entry.id } }"
                >{{ entry.title }}</RouterLink
              >
              <p class="question">{{ entry.question }}</p>
              <p class="muted small">
                {{ entry.vehicle }} · {{ entry.cell }} · {{ day(entry)
                }}<template v-if="entry.pullsDriven > 0"> · {{ entry.pullsUsed }} of {{ entry.pullsDriven }} pulls used</template
                ><template v-if="entry.version > 1"> · version {{ entry.version }}</template
                ><template v-if="entry.fixed.count > 0">
                  · {{ entry.fixed.count }} fixed<b v-if="entry.fixed.outOfDate > 0" class="gap"
                    >, {{ entry.fixed.outOfDate }} out of date</b
                  ></template
                ><template v-if="entry.gaps.length">
                  · <span class="gap" :title="entry.gaps.join(' ')">{{ entry.gaps.length }} open</span></template
                >
              </p>
              <!-- Beside each other there is no room: what is found stands with what was asked. -->
              <BoardFigures v-if="isNarrow" class="figures" :entry="entry" @bring-back="bringBack(entry.id)" />
            </li>
          </ol>
          <BoardChart ref="chart" :programmes="programmes" class="chart" />
          <ol v-if="!isNarrow" class="figures answers">
            <li v-for="entry in programmes" :key="entry.id" :style="{ height: `${BoardChart.rowHeight(entry)}px` }">
              <BoardFigures :entry="entry" @bring-back="bringBack(entry.id)" />
            </li>
          </ol>
        </div>
      </ChartFrame>
      <p v-if="hiddenCount > 0" ref="end" class="more">
        <Button text :label="`Show ${Math.min(STEP, hiddenCount)} of ${hiddenCount} more`" @click="drawn += STEP" />
      </p>
    </template>
  </div>
</template>

<style scoped>
.waiting {
  list-style: none;
  padding: 0.3rem 0 0.5rem;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 1rem;
  justify-content: space-between;
  align-items: center;
  margin-bottom: 0.8rem;
}
h1 {
  font-size: 1.6rem;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
.seek {
  font: inherit;
  width: 13rem;
  padding: 0.2rem 0.6rem;
  color: var(--ink);
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 3px;
}
.more {
  text-align: center;
}
.gap {
  color: var(--ink);
  font-weight: 600;
}
.gap::before {
  content: '◇ ';
}
.empty {
  padding: 2rem 0;
  max-width: 40rem;
  display: grid;
  gap: 1rem;
  justify-items: start;
}
.board {
  display: grid;
  grid-template-columns: minmax(17rem, 1fr) minmax(14rem, 0.85fr) minmax(28rem, 1.05fr);
  column-gap: 1.6rem;
}
ol {
  list-style: none;
  margin: 0;
  padding: 1.9rem 0 0;
}
li {
  border-top: 1px solid var(--line);
  padding-top: 0.55rem;
  overflow: hidden;
}
.answers li {
  overflow: visible;
}
.name {
  font-weight: 650;
  font-size: 1.05rem;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow: hidden;
  color: var(--ink);
  text-decoration: none;
}
.name:hover {
  color: var(--green);
  text-decoration: underline;
}
.question {
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow: hidden;
  margin: 0.1rem 0 0.2rem;
}
@media (max-width: 900px) {
  .board {
    grid-template-columns: minmax(0, 1fr);
  }
  .entries li {
    height: auto !important;
    overflow: visible;
    padding-bottom: 0.6rem;
  }
  ol {
    padding-top: 0.6rem;
  }
}
</style>
