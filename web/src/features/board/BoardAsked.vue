<script setup lang="ts">
import type { BoardEntry } from '@gezeit/contract';
import { RouterLink } from 'vue-router';
import { dayWords } from '../../shared/day-words.js';

/** A programme of the board: what is asked, of which car, where and when, and what is open or out of date. */
defineProps<{ entry: BoardEntry }>();

const day = ({ lastPullAt, judging }: BoardEntry) => {
  if (lastPullAt) return dayWords(lastPullAt);
  return judging ? '…' : 'nothing run yet';
};
</script>

<template>
  <RouterLink class="name" :to="{ name: entry.pullsDriven > 0 || entry.judging ? 'verdict' : 'question', params: { id: entry.id } }">{{
    entry.title
  }}</RouterLink>
  <p class="question">{{ entry.question }}</p>
  <p class="muted small">
    {{ entry.vehicle }} · {{ entry.cell }} · {{ day(entry)
    }}<template v-if="entry.pullsDriven > 0"> · {{ entry.pullsUsed }} of {{ entry.pullsDriven }} pulls used</template
    ><template v-if="entry.version > 1"> · version {{ entry.version }}</template
    ><template v-if="entry.fixed.count > 0">
      · {{ entry.fixed.count }} fixed<b v-if="entry.fixed.outOfDate > 0" class="gap">, {{ entry.fixed.outOfDate }} out of date</b></template
    ><template v-if="entry.gaps.length"> · <span class="gap" :title="entry.gaps.join(' ')">{{ entry.gaps.length }} open</span></template>
  </p>
</template>

<style scoped>
.name,
.question {
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow: hidden;
}
.name {
  font-weight: 650;
  font-size: 1.05rem;
  color: var(--ink);
  text-decoration: none;
}
.name:hover {
  color: var(--green);
  text-decoration: underline;
}
.question {
  margin: 0.1rem 0 0.2rem;
}
.gap {
  color: var(--ink);
  font-weight: 600;
}
.gap::before {
  content: '◇ ';
}
</style>
