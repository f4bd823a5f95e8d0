<script setup lang="ts">
import { ownUnit } from '@gezeit/core';
import type { DayHappening } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import { refusedField } from '../../shared/form/refused-field.js';
import WeatherFields from '../../parts/WeatherFields.vue';
import { typedWeather, weatherForm } from '../../parts/weather-form.js';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** Readings typed from the cell's own instruments: gates and weather. */
const day = useDay();
const typed = ref<Record<string, number | null>>({});
const weather = ref(weatherForm(null));
const gates = computed(() => day.gates.filter(({ unit }) => unit !== 'min'));
watch(
  () => day.dialog === 'readings',
  () => {
    typed.value = {};
    const known = weatherForm(day.state.weather?.value);
    const read = (quantity: string) => day.readings.find((entry) => entry.quantity === quantity)?.value ?? null;
    weather.value = {
      temperatureC: read('ambientTemperature') ?? known.temperatureC,
      pressurePa: read('ambientPressure') ?? known.pressurePa,
      humidityPct: read('relativeHumidity') ?? known.humidityPct,
    };
  },
);
const saysWeather = computed(() => Object.values(weather.value).some((value) => value !== null));
async function keep(): Promise<void> {
  if (refusedField()) return;
  const readings = gates.value.flatMap((gate): DayHappening[] => {
    const value = typed.value[gate.id];
    return value == null ? [] : [{ kind: 'reading', gate: gate.id, value: ownUnit(gate.unit).fromInside(value) }];
  });
  const air: DayHappening = { kind: 'weather', weather: typedWeather(weather.value) };
  const streams = day.readings.some(({ quantity }) => quantity === 'ambientTemperature');
  const all = [...readings, ...(saysWeather.value && !streams ? [air] : [])];
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
      <WeatherFields v-model="weather" />
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
  margin-bottom: 0.6rem;
}
.fields :deep(label.field) {
  display: contents;
}
</style>
