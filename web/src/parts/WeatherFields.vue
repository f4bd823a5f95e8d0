<script setup lang="ts">
import NumberInput from '../shared/form/NumberInput.vue';
import type { WeatherForm } from './weather-form.js';

/** The air that a correction needs, wherever it is typed. What cannot be the weather, gauge pressure or another unit's number, is refused. */
const form = defineModel<WeatherForm>({ required: true });
const emit = defineEmits<{ commit: [] }>();
const FIELDS = [
  { key: 'temperatureC', label: 'Air temperature', unit: '°C', least: -50, most: 60 },
  { key: 'pressurePa', label: 'Air pressure', unit: 'kPa', least: 50_000, most: 110_000 },
  { key: 'humidityPct', label: 'Humidity', unit: '%', least: 0, most: 100 },
] as const;
</script>

<template>
  <label v-for="{ key, label, unit, least, most } in FIELDS" :key="key" class="field">
    <span>{{ label }}</span>
    <NumberInput
      :model-value="form[key]"
      :unit="unit"
      :label="label"
      :least="least"
      :most="most"
      optional
      @update:model-value="form = { ...form, [key]: $event }"
      @commit="emit('commit')"
    />
  </label>
</template>
