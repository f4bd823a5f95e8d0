<script setup lang="ts">
import { quantityWords, sentence, weatherNow } from '@gezeit/core';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import { useDay } from './day-store.js';

/** The line above all else: what is fitted, how far the day is, the time, the weather, and whether Gezeit answers. */
const props = defineProps<{ planned: number; clock: (ms: number) => string }>();
const day = useDay();
const show = useShow();

const fitted = computed(() => {
  const id = day.state.fitted;
  return id ? `${id} ${day.setupById.get(id)?.setup.name ?? ''}`.trim() : null;
});
const where = computed(() =>
  [
    fitted.value,
    day.state.day ? `${day.state.pulls.length} of ${props.planned} driven` : null,
    day.instruction.step?.inserted ? 'out of plan' : null,
  ]
    .filter(Boolean)
    .join(' · '),
);
const now = computed(() => weatherNow(day.state, day.readings));
const off = computed(() => now.value.off.map((quantity) => `${sentence(quantityWords(quantity))} reads what no weather is: not used`));
const weather = computed(() => {
  const { temperatureC, pressureKPa, relativeHumidityPct: humidity } = now.value.weather;
  return [
    temperatureC === null ? null : `${show.value.temperature(temperatureC)} ${show.value.units.temperature}`,
    pressureKPa === null ? null : `${show.value.pressure(pressureKPa, 3)} ${show.value.units.pressure}`,
    humidity === null ? null : `${Math.round(humidity)} %`,
  ].filter((part) => part !== null);
});
</script>

<template>
  <header class="line">
    <span>{{ where }}</span>
    <span class="right"
      ><b data-clock>{{ clock(day.nowMs) }}</b> <span v-for="part in weather" :key="part">{{ part }}</span
      ><span v-for="part in off" :key="part" class="lost" role="status">{{ part }}</span
      ><span v-if="!day.connected" class="lost" role="status"
        >No answer from Gezeit: {{ day.outbox.length === 0 ? 'what you do is kept here' : `${day.outbox.length} kept here` }}</span
      ><span v-else-if="day.outbox.length > 0" role="status">sending…</span> <span>emergency stop: the cell’s own button</span></span
    >
  </header>
</template>

<style scoped>
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
</style>
