<script setup lang="ts">
import type { BenchInput, BenchInputs } from '@gezeit/contract';
import type { BenchRow, Field, InputProblem, Instrument } from '@gezeit/core';
import { computed } from 'vue';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import ListInput from './ListInput.vue';
import TableInput from './TableInput.vue';

/** The inputs of an instrument; what the chosen way of computing does not use stands back. */
const props = defineProps<{ instrument: Instrument; inputs: BenchInputs; problems: readonly InputProblem[] }>();
const emit = defineEmits<{ set: [name: string, value: BenchInput] }>();
const simple = computed(() => props.instrument.fields.filter((field) => field.kind !== 'table' && isUsed(field.name)));
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
const numberOf = (field: Field) => valueOf(field) as number | null;
const textOf = (field: Field) => valueOf(field) as string | null;
const listOf = (field: Field) => (valueOf(field) ?? []) as number[];
const rowsOf = (field: Field) => (valueOf(field) ?? []) as BenchRow[];
const problemOf = (name: string) => props.problems.find(({ field }) => field === name)?.message.replace(/^[^:]*: /, '') ?? null;
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
      <FieldRow v-for="field in simple" :key="field.name" :label="field.label" :why="field.why">
        <template #default="{ describedBy }">
          <NumberInput
            v-if="field.kind === 'number'"
            :model-value="numberOf(field)"
            :unit="field.unit"
            :difference="field.difference"
            :label="field.label"
            :optional="field.optional"
            :problem="problemOf(field.name)"
            :described-by="describedBy"
            @update:model-value="emit('set', field.name, $event)"
          />
          <ListInput
            v-else-if="field.kind === 'list'"
            :field="field"
            :values="listOf(field)"
            :problem="problemOf(field.name)"
            @change="emit('set', field.name, $event)"
          />
          <ChoiceInput
            v-else-if="field.kind === 'choice'"
            :model-value="textOf(field)"
            :choices="field.choices"
            :label="field.label"
            :described-by="describedBy"
            @update:model-value="emit('set', field.name, $event)"
          />
          <TextEdit
            v-else-if="field.kind === 'text'"
            :model-value="textOf(field)"
            :label="field.label"
            @commit="emit('set', field.name, $event || null)"
          />
        </template>
      </FieldRow>
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
