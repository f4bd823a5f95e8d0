<script setup lang="ts">
import type { BenchInput, BenchInputs } from '@gezeit/contract';
import type { BenchRow, Field, InputProblem, Instrument, TableField } from '@gezeit/core';
import { computed } from 'vue';
import FieldSet from '../../shared/form/FieldSet.vue';
import type { FormValue } from '../../shared/form/form-fields.js';
import TableInput from './TableInput.vue';

/** The inputs of an instrument; what the chosen way of computing does not use stands back. */
const props = defineProps<{ instrument: Instrument; inputs: BenchInputs; problems: readonly InputProblem[] }>();
const emit = defineEmits<{ set: [name: string, value: BenchInput] }>();
const simple = computed(() =>
  props.instrument.fields.filter((field): field is Exclude<Field, TableField> => field.kind !== 'table' && isUsed(field.name)),
);
const tables = computed(() => props.instrument.fields.filter((field) => field.kind === 'table' && isUsed(field.name)));

/** Fields that one choice of the instrument alone uses. */
const ONLY: Record<string, Record<string, string>> = {
  'air-demand': {
    crankPower: 'power',
    powerSpeed: 'power',
    fuelConsumption: 'power',
    airFuelRatio: 'power',
    logged: 'logged',
    displacement: 'displacement',
    strokes: 'displacement',
    volumetricEfficiency: 'displacement',
  },
  'leak-test': { bubbles: 'immersion', decay: 'decay', volume: 'decay', limit: 'decay', operating: 'decay' },
};
function isUsed(name: string): boolean {
  const only = ONLY[props.instrument.id]?.[name];
  if (only === undefined) return true;
  const method = props.instrument.fields.find((field) => field.name === 'method');
  return ((props.inputs['method'] as string | undefined) ?? (method?.kind === 'choice' ? method.value : '')) === only;
}
const valueOf = (field: Field) => props.inputs[field.name] ?? ('value' in field ? (field.value ?? null) : null);
const rowsOf = (field: Field) => (valueOf(field) ?? []) as BenchRow[];
const values = computed(() => Object.fromEntries(simple.value.map((field) => [field.name, valueOf(field) as FormValue | undefined])));
const problemsByField = computed(() =>
  Object.fromEntries(props.problems.flatMap(({ field, short }) => (field === null ? [] : [[field, short]]))),
);
</script>

<template>
  <div class="fields">
    <TableInput
      v-for="field in tables"
      :key="field.name"
      :table="field as never"
      :rows="rowsOf(field)"
      :problems="problems.filter((problem) => problem.field === field.name)"
      :name="instrument.id"
      @change="emit('set', field.name, $event)"
    />
    <div class="simple" :class="{ columns: tables.length > 0 }">
      <FieldSet live :fields="simple" :values="values" :problems="problemsByField" @set="(name, value) => emit('set', name, value)" />
    </div>
  </div>
</template>

<style scoped>
.fields {
  min-width: 0;
}
.simple.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(19rem, 100%), 1fr));
  gap: 0 1.4rem;
}
</style>
