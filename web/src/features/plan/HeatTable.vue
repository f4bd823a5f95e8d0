<script setup lang="ts">
import type { HeatForecast } from '@gezeit/core';
import Button from 'primevue/button';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import { useShow } from '../../shared/units/use-show.js';
import { usePlan } from '../../model/plan-store.js';

/** The constants that the heat forecast rests on: this car's own where its days have taught them, else assumptions; all can be changed. */
const plan = usePlan();
const show = useShow();
const FIELDS: { key: Exclude<keyof HeatForecast, 'quickShare'>; label: string; unit: '°C' | 's'; why: string }[] = [
  { key: 'perPullK', label: 'A pull adds', unit: '°C', why: 'Rise of the intake air in a pull.' },
  { key: 'standingK', label: 'A standing car', unit: '°C', why: 'Intake air above ambient to which the warm, idling car comes back.' },
  { key: 'quickS', label: 'Quick part ebbs', unit: 's', why: 'Time constant of core and sensor: after it a third of the heat is left.' },
  { key: 'slowS', label: 'Slow part ebbs', unit: 's', why: 'Time constant of bay and box.' },
];
const set = (key: keyof HeatForecast, value: number | null) =>
  value !== null && plan.change('heat forecast', (now) => ({ ...now, heat: { ...now.heat, [key]: value } }));
</script>

<template>
  <section aria-label="Heat forecast">
    <h2>Heat forecast</h2>
    <p class="muted small">
      <template v-if="plan.plan.heat">Changed by hand.</template>
      <template v-else-if="plan.learned"
        >From {{ plan.learned.recoveries }} recoveries of this car, missed by
        {{ show.words.temperatureSpan(plan.learned.missK) }}.</template
      >
      <template v-else>Assumed: no day of this car is logged yet.</template>
    </p>
    <FieldRow v-for="field in FIELDS" :key="field.key" :label="field.label" :why="field.why">
      <NumberInput
        :model-value="plan.heat[field.key]"
        :unit="field.unit"
        :difference="field.unit === '°C'"
        :label="field.label"
        :least="field.unit === 's' ? 1 : field.key === 'perPullK' ? 0 : -20"
        width="5rem"
        @commit="set(field.key, $event)"
      />
    </FieldRow>
    <Button
      v-if="plan.plan.heat"
      text
      size="small"
      label="As this car’s days say"
      @click="plan.change('heat forecast as learned', (now) => ({ ...now, heat: null }))"
    />
  </section>
</template>
