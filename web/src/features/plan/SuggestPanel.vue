<script setup lang="ts">
import { setupStyle } from '../../shared/charts/setup-colours.js';
import {
  swapCount,
  withConditioning,
  type BenchChart,
  type Suggestion,
  type SuggestionResult,
  lengthText,
  lettersOf,
  resolutionText,
} from '@gezeit/core';
import Button from 'primevue/button';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { useTheme } from '../../shared/charts/theme-store.js';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import WorkProgress from '../../shared/ui/WorkProgress.vue';
import PlotlyChart from '../../shared/charts/PlotlyChart.vue';
import { useUnits } from '../../shared/units/units-store.js';
import { benchFigure } from '../../shared/charts/bench-figure.js';
import { useProgramme } from '../../model/programme-store.js';
import type { SuggestAnswer, SuggestQuestion } from './suggest.worker.js';
import { usePlan } from '../../model/plan-store.js';

/** Searches the order with the best resolution within a time and a number of swaps; the trade-off is a curve to pick from. */
const programme = useProgramme();
const plan = usePlan();
const themes = useTheme();
const units = useUnits();
const mostHours = ref<number | null>(4 * 3600);
const mostSwaps = ref<number | null>(6);
const mostPulls = ref<number | null>(12);
const progress = ref(0);
const result = shallowRef<SuggestionResult | null>(null);
const best = shallowRef<Suggestion | null>(null);
const running = ref(false);
const failed = ref(false);
let worker: Worker | null = null;

const setups = computed(() => {
  const inUse = programme.view!.bundle.setups.filter(({ archived }) => !archived);
  const reference = inUse.find((setup) => setup.reference);
  return reference ? [reference.id, ...inUse.filter((setup) => !setup.reference).map(({ id }) => id)] : [];
});
const problem = computed(() => {
  if (setups.value.length < 2) return 'A suggestion needs a reference and another setup.';
  if (!mostHours.value || mostHours.value < 300) return 'Allow at least five minutes.';
  if (!mostPulls.value || mostPulls.value < setups.value.length)
    return `${setups.value.length} setups need at least ${setups.value.length} pulls.`;
  if (mostPulls.value > 60) return 'More than 60 pulls are more than a day.';
  return mostSwaps.value === null || mostSwaps.value < setups.value.length - 1
    ? `${setups.value.length} setups need at least ${setups.value.length - 1} swaps.`
    : null;
});

function suggest(): void {
  stop();
  result.value = null;
  best.value = null;
  progress.value = 0;
  failed.value = false;
  running.value = true;
  worker = new Worker(new URL('./suggest.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<SuggestAnswer>) => {
    if (data.kind === 'progress') {
      progress.value = data.share;
      best.value = data.best;
      return;
    }
    result.value = data.result;
    best.value = data.result.best;
    stop();
  };
  worker.onerror = () => {
    failed.value = true;
    stop();
  };
  const question: SuggestQuestion = {
    bundle: JSON.parse(JSON.stringify(plan.bundle)) as SuggestQuestion['bundle'],
    setups: setups.value,
    mostHours: mostHours.value! / 3600,
    mostSwaps: Math.floor(mostSwaps.value!),
    mostPulls: Math.floor(mostPulls.value!),
  };
  worker.postMessage(question);
}
function stop(): void {
  worker?.terminate();
  worker = null;
  running.value = false;
}
onBeforeUnmount(stop);
// What was searched under other rules is no suggestion any more.
watch(
  () => JSON.stringify([setups.value, plan.plan.swaps ?? null, plan.plan.swapMin ?? null, plan.plan.restMin ?? null]),
  () => {
    stop();
    result.value = null;
    best.value = null;
  },
);

function take({ order }: Suggestion): void {
  plan.change('suggested order', (now) => ({ ...now, pulls: withConditioning(order) }));
}
const chart = computed<BenchChart | null>(() => {
  const front = result.value?.tradeOff ?? [];
  if (front.length < 2) return null;
  return {
    name: 'trade-off',
    title: 'What an hour buys',
    subtitle: 'best resolution found for each length of the day; click to take an order',
    x: { label: 'Hours, first to last pull', unit: '–' },
    y: { label: 'Recognises', unit: '%', from: 0 },
    lines: [{ name: 'best found', x: front.map(({ hours }) => hours), y: front.map(({ smallestResolvablePct }) => smallestResolvablePct) }],
    points: front.map(({ hours, smallestResolvablePct }) => ({ name: '', x: hours, y: smallestResolvablePct })),
    marks: [{ axis: 'y', at: programme.view!.bundle.programme.smallestGainPct, label: 'smallest that matters' }],
  };
});
const figure = computed(() => {
  if (!chart.value) return null;
  const drawn = benchFigure(chart.value, themes.tokens, units.chosen, [setupStyle(0, themes.theme).colour]);
  const points = drawn.data.at(-1) as { customdata?: unknown[] };
  points.customdata = result.value!.tradeOff.map((_, i) => i);
  return drawn;
});
const pick = (index: unknown) => typeof index === 'number' && take(result.value!.tradeOff[index]!);
</script>

<template>
  <section aria-label="Suggest an order">
    <h2>Suggest an order</h2>
    <FieldRow label="At most" why="From the first to the last pull, swaps and rests included.">
      <NumberInput v-model="mostHours" unit="h" label="Longest day" width="4.5rem" />
      <NumberInput v-model="mostSwaps" unit="–" label="Most swaps" width="3.5rem" /><span>swaps</span>
      <NumberInput v-model="mostPulls" unit="–" label="Most measured pulls" width="3.5rem" /><span>measured pulls</span>
    </FieldRow>
    <p v-if="problem" class="muted">{{ problem }}</p>
    <Button
      v-if="!running"
      size="small"
      outlined
      icon="pi pi-search"
      label="Suggest an order"
      :disabled="problem !== null"
      @click="suggest"
    />
    <WorkProgress v-else :share="progress" label="Searching" @stop="stop" />
    <p v-if="failed" role="alert">The search broke off. Try again; if it happens again, change the limits and report it.</p>
    <p v-if="best" class="found">
      <b>{{ best.order.join(' ') }}</b> recognises {{ resolutionText(best.smallestResolvablePct) }} in
      {{ lengthText(best.hours * 60) }} with {{ swapCount(best.order) }} swaps.
      <Button size="small" text label="Take it" @click="take(best)" />
    </p>
    <p v-else-if="result" class="muted">No order keeps to these limits: allow more time or swaps.</p>
    <PlotlyChart
      v-if="figure && chart"
      :name="chart.name"
      :title="chart.title"
      :subtitle="chart.subtitle"
      :data="figure.data"
      :layout="figure.layout"
      :height="230"
      :table="figure.table"
      @click-point="pick"
    />
    <details v-if="result && result.tradeOff.length > 1">
      <summary>Every order on the curve</summary>
      <ul class="orders">
        <li v-for="entry in result.tradeOff" :key="entry.order.join()">
          <Button
            size="small"
            text
            :label="`${lengthText(entry.hours * 60)}: ${resolutionText(entry.smallestResolvablePct)}`"
            :title="lettersOf(withConditioning(entry.order))"
            @click="take(entry)"
          />
          {{ entry.order.join(' ') }}
        </li>
      </ul>
    </details>
  </section>
</template>

<style scoped>
.found {
  margin: 0.4rem 0;
}
.orders {
  list-style: none;
  padding: 0;
}
</style>
