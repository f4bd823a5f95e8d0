<script setup lang="ts">
import { WEATHER_RANGES } from '@gezeit/contract';
import NumberInput from '../shared/form/NumberInput.vue';
import type { WeatherForm } from './weather-form.js';

/** The air that a correction needs, wherever it is typed. What cannot be the weather, gauge pressure or another unit's number, is refused. */
const form = defineModel<WeatherForm>({ required: true });
const emit = defineEmits<{ commit: [] }>();
const FIELDS = [
  { key: 'temperatureC', label: 'Air temperature', unit: '°C', range: WEATHER_RANGES.temperatureC, per: 1 },
  { key: 'pressurePa', label: 'Air pressure', unit: 'kPa', range: WEATHER_RANGES.pressureKPa, per: 1000 },
  { key: 'humidityPct', label: 'Humidity', unit: '%', range: WEATHER_RANGES.relativeHumidityPct, per: 1 },
] as const;
</script>

<template>
  <label v-for="{ key, label, unit, range, per } in FIELDS" :key="key" class="field">
    <span>{{ label }}</span>
    <NumberInput
      :model-value="form[key]"
      :unit="unit"
      :label="label"
      :least="range[0] * per"
      :most="range[1] * per"
      optional
      @update:model-value="form = { ...form, [key]: $event }"
      @commit="emit('commit')"
    />
  </label>
</template>
