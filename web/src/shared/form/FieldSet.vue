<script setup lang="ts">
import { whyText } from '@gezeit/core';
import { ref } from 'vue';
import { useShow } from '../units/use-show.js';
import ChoiceInput from './ChoiceInput.vue';
import FieldRow from './FieldRow.vue';
import ListInput from './ListInput.vue';
import NumberInput from './NumberInput.vue';
import TextEdit from './TextEdit.vue';
import { numberProblem, type FormField, type FormValue } from './form-fields.js';

/** Fields of a form by their description: each saves by itself when it is left, and what is refused stays in its field with the reason. */
const props = defineProps<{
  fields: readonly FormField[];
  /** What is said so far, by name; a field takes what is of its kind. */
  values: Readonly<Record<string, unknown>>;
  /** What is wrong beyond a field's own rules, by name. */
  problems?: Readonly<Record<string, string | null>>;
  /** Whether a number counts while it is typed, and not only when it is left. */
  live?: boolean;
}>();
const emit = defineEmits<{ set: [name: string, value: FormValue, label: string] }>();

const show = useShow();
/** Numbers as they are being typed, and texts that were refused, by name. */
const typed = ref<Record<string, number | null>>({});
const refused = ref<Record<string, string | null>>({});

const numberOf = (name: string) => (props.values[name] ?? null) as number | null;
const textOf = (name: string) => (props.values[name] ?? null) as string | null;
const listOf = (name: string) => [...((props.values[name] ?? []) as number[])];
const problemOf = (field: Extract<FormField, { kind: 'number' }>) =>
  (props.live ? null : numberProblem(field, typed.value[field.name] ?? null)) ?? props.problems?.[field.name] ?? null;

function onType(field: Extract<FormField, { kind: 'number' }>, value: number | null): void {
  typed.value[field.name] = value;
  if (props.live) emit('set', field.name, value, field.label);
}
function onNumber(field: Extract<FormField, { kind: 'number' }>, value: number | null): void {
  if (!props.live && numberProblem(field, value) === null) emit('set', field.name, value, field.label);
}
function onText(field: FormField, value: string): void {
  refused.value[field.name] = value === '' ? null : (field.refuse?.(value) ?? null);
  if (refused.value[field.name] === null) emit('set', field.name, value || null, field.label);
}
</script>

<template>
  <FieldRow v-for="field in fields" :key="field.name" :label="field.label" :why="whyText(field, show.words)">
    <template #default="{ describedBy }">
      <NumberInput
        v-if="field.kind === 'number'"
        :model-value="numberOf(field.name)"
        :unit="field.unit"
        :difference="field.difference"
        :label="field.aria ?? field.label"
        :optional="field.optional"
        :placeholder="field.placeholder"
        :problem="problemOf(field)"
        :described-by="describedBy"
        @update:model-value="onType(field, $event)"
        @commit="onNumber(field, $event)"
      />
      <ChoiceInput
        v-else-if="field.kind === 'choice'"
        :model-value="textOf(field.name)"
        :choices="field.choices"
        :label="field.aria ?? field.label"
        :placeholder="field.placeholder"
        :described-by="describedBy"
        @update:model-value="emit('set', field.name, $event, field.label)"
      />
      <ListInput
        v-else-if="field.kind === 'list'"
        :field="field"
        :values="listOf(field.name)"
        :problem="problems?.[field.name] ?? null"
        @change="emit('set', field.name, $event, field.label)"
      />
      <TextEdit
        v-else
        :model-value="textOf(field.name)"
        :label="field.aria ?? field.label"
        :placeholder="field.placeholder"
        :described-by="describedBy"
        @commit="onText(field, $event)"
      />
      <span v-if="field.behind" class="muted small">{{ field.behind }}</span>
      <span v-if="refused[field.name]" class="problem" role="alert">{{ refused[field.name] }}</span>
    </template>
  </FieldRow>
</template>

<style scoped>
.problem {
  color: var(--brick);
  font-size: 13px;
}
</style>
