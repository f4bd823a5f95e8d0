<script setup lang="ts">
import { ownUnit } from '@gezeit/core';
import type { DayHappening } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import { refusedField } from '../../shared/form/refused-field.js';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** Readings typed from the cell's own instruments: gates and weather. */
const day = useDay();
const typed = ref<Record<string, number | null>>({});
const weather = ref<{ temperatureC: number | null; pressurePa: number | null; humidityPct: number | null }>({
  temperatureC: null,
  pressurePa: null,
  humidityPct: null,
});
const gates = computed(() => day.gates.filter(({ unit }) => unit !== 'min'));
watch(
  () => day.dialog === 'readings',
  () => {
    typed.value = {};
    const known = day.state.weather?.value;
    const read = (quantity: string) => day.readings.find((entry) => entry.quantity === quantity)?.value ?? null;
    weather.value = {
      temperatureC: read('ambientTemperature') ?? known?.temperatureC ?? null,
      pressurePa: read('ambientPressure') ?? (known?.pressureKPa == null ? null : known.pressureKPa * 1000),
      humidityPct: read('relativeHumidity') ?? known?.relativeHumidityPct ?? null,
    };
  },
);
const weatherChanged = computed(() => {
  const { temperatureC, pressurePa, humidityPct } = weather.value;
  return temperatureC !== null || pressurePa !== null || humidityPct !== null;
});
async function keep(): Promise<void> {
  if (refusedField()) return;
  const readings = gates.value.flatMap((gate): DayHappening[] => {
    const value = typed.value[gate.id];
    return value == null ? [] : [{ kind: 'reading', gate: gate.id, value: ownUnit(gate.unit).fromInside(value) }];
  });
  const { temperatureC, pressurePa, humidityPct } = weather.value;
  const air: DayHappening = {
    kind: 'weather',
    weather: { temperatureC, pressureKPa: pressurePa === null ? null : pressurePa / 1000, relativeHumidityPct: humidityPct },
  };
  const streams = day.readings.some(({ quantity }) => quantity === 'ambientTemperature');
  const all = [...readings, ...(weatherChanged.value && !streams ? [air] : [])];
  if (all.length === 0 || (await day.act(...all))) day.dialog = null;
}
</script>

<template>
  <CellDialog name="readings" header="Read off the instruments">
    <form class="fields" @submit.prevent="keep">
      <template v-for="gate in gates" :key="gate.id">
        <span>{{ gate.label }}</span>
        <NumberInput
          :model-value="typed[gate.id] ?? null"
          :unit="ownUnit(gate.unit).name"
          :difference="ownUnit(gate.unit).difference"
          :label="gate.label"
          optional
          @update:model-value="typed[gate.id] = $event"
        />
      </template>
      <span>Air in the cell</span>
      <NumberInput v-model="weather.temperatureC" unit="°C" label="Air in the cell" :least="-50" :most="60" optional />
      <span>Air pressure</span>
      <NumberInput v-model="weather.pressurePa" unit="kPa" label="Air pressure" :least="50_000" :most="110_000" optional />
      <span>Humidity</span>
      <NumberInput v-model="weather.humidityPct" unit="%" label="Humidity" :least="0" :most="100" optional />
      <button type="submit" hidden />
    </form>
    <p class="muted">A temperature that is typed counts for two and a half minutes. What a device streams goes before what is typed.</p>
    <template #actions>
      <Button text label="Close" @click="day.dialog = null" />
      <Button label="Keep the readings" @click="keep" />
    </template>
  </CellDialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 13rem 1fr;
  gap: 0.4rem 0.8rem;
  align-items: baseline;
}
</style>
