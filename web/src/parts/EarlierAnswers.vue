<script setup lang="ts">
import { leadingEstimate, VERDICT_WORDS } from '@gezeit/core';
import { computed, useTemplateRef } from 'vue';
import { RouterLink } from 'vue-router';
import IntervalScale, { type IntervalRow } from '../shared/charts/IntervalScale.vue';
import { withSign } from '../shared/units/show.js';
import { useWidth } from '../shared/use-width.js';
import { useProgramme } from '../model/programme-store.js';

/** The answers of the programme that this one repeats, as they stood, each beside what this one says so far. */
const programme = useProgramme();
const MOST_PX = 380;
const width = useWidth(useTemplateRef<HTMLElement>('box'), 270, MOST_PX);
const earlier = computed(() => programme.view!.bundle.programme.revalidates!);
const smallest = computed(() => programme.view!.bundle.programme.smallestGainPct);

interface Interval {
  pct?: number | null;
  low?: number | null;
  high?: number | null;
}
const row = (label: string, answer: Interval | null, strong: boolean): IntervalRow => ({
  label,
  value: answer?.pct ?? null,
  low: answer?.low ?? null,
  high: answer?.high ?? null,
  strong,
  text: answer?.pct == null ? 'nothing yet' : `${withSign(answer.pct, 1)} (${withSign(answer.low!, 1)} to ${withSign(answer.high!, 1)})`,
});
function quotedNow(candidate: string) {
  const found = programme.comparisons.find((entry) => entry.candidate === candidate);
  return found ? leadingEstimate(found) : null;
}
const pairs = computed(() =>
  earlier.value.answers.map((answer) => ({
    answer,
    rows: [row('then', answer, false), row('now', quotedNow(answer.candidate), true)],
  })),
);
</script>

<template>
  <section ref="box" class="earlier" aria-label="Earlier answers">
    <h2>Repeats <RouterLink :to="{ name: 'verdict', params: { id: earlier.programme } }">{{ earlier.title }}</RouterLink></h2>
    <div v-for="{ answer, rows } in pairs" :key="answer.candidate">
      <p><b>{{ answer.candidateName }}</b> <span class="muted">then: {{ VERDICT_WORDS[answer.power] }}</span></p>
      <IntervalScale :rows="rows" :smallest="smallest" unit="%" :width="Math.min(MOST_PX, width)" :label-width="48" :text-width="130" />
    </div>
  </section>
</template>

<style scoped>
.earlier {
  margin-bottom: 0.8rem;
}
</style>
