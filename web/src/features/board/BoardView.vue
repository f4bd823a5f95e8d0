<script setup lang="ts">
import { withAnswerWords } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, ref, useTemplateRef } from 'vue';
import { RouterLink } from 'vue-router';
import { useImport } from '../../model/import-store.js';
import { useNewProgramme } from '../../model/new-programme-store.js';
import ChartFrame from '../../shared/charts/ChartFrame.vue';
import { useNarrow } from '../../shared/charts/use-narrow.js';
import { saveTable, saveText, svgText } from '../../shared/save.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { useShow } from '../../shared/units/use-show.js';
import BoardAsked from './BoardAsked.vue';
import BoardChart from './BoardChart.vue';
import BoardFigures from './BoardFigures.vue';
import { boardColumns } from './board-table.js';
import { useBoard } from './use-board.js';
import { useSought } from './use-sought.js';

/** The board: every programme's present answer on one common scale. */
const importing = useImport();
const beginning = useNewProgramme();
const show = useShow();
const isNarrow = useNarrow(900);
/** With so many a field to look among them is in the way. */
const FEW = 6;
const { all, waiting, failure, outOfDateCount, judgingCount, archivedCount, load, bringBack } = useBoard();
const end = useTemplateRef<HTMLElement>('end');
const { sought, outOfDateOnly, showArchived, found, drawn, hiddenCount, nextCount, drawMore } = useSought(all, end);
const programmes = computed(() => drawn.value && withAnswerWords(drawn.value, show.value.words));
const chart = useTemplateRef<InstanceType<typeof BoardChart>>('chart');
const hovered = ref<string | null>(null);
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
        @save-csv="saveTable('board.csv', boardColumns(found ?? []))"
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
              <BoardAsked :entry="entry" />
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
        <Button text :label="`Show ${nextCount} of ${hiddenCount} more`" @click="drawMore()" />
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
