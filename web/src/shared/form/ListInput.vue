<script setup lang="ts">
import { numberText, typedNumber, type ListField, fieldUnit } from '@gezeit/core';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import { useUnits } from '../units/units-store.js';

/** Several readings in one line, separated by spaces or semicolons. */
const props = defineProps<{ field: ListField; values: readonly number[]; problem: string | null }>();
const emit = defineEmits<{ change: [values: number[]] }>();
const units = useUnits();
const unit = computed(() => fieldUnit(props.field.unit, props.field.difference ?? false, units.chosen));
const own = computed(() => props.values.map((value) => numberText(value, unit.value, props.field.difference)).join('  '));
const text = ref(own.value);
const focused = ref(false);
const refused = ref<string | null>(null);
watch(own, (value) => {
  if (!focused.value && refused.value === null) text.value = value;
});

function onInput(value: string | undefined): void {
  text.value = value ?? '';
  const read = text.value
    // A space before a number parts two readings; one before a unit does not.
    .split(/;|\s+(?=[+−-]?[\d.,])/)
    .map((entry) => entry.trim())
    .filter(Boolean)
    .map((entry) => typedNumber(entry, unit.value, props.field.difference));
  const bad = read.find((entry) => !entry.understood);
  refused.value = bad && !bad.understood ? bad.problem : null;
  if (!bad)
    emit(
      'change',
      read.map((entry) => (entry as { value: number }).value),
    );
}
function onBlur(): void {
  focused.value = false;
  if (refused.value === null) text.value = own.value;
}
</script>

<template>
  <span class="list-input">
    <InputText
      :model-value="text"
      :aria-label="`${field.label}, ${unit}`"
      :invalid="(refused ?? problem) !== null"
      autocomplete="off"
      class="field"
      placeholder="8.1  8.3  8.2"
      @update:model-value="onInput"
      @focus="focused = true"
      @blur="onBlur"
    />
    <span class="muted small">{{ unit }}, {{ values.length }} {{ values.length === 1 ? 'reading' : 'readings' }}</span>
    <span v-if="refused ?? problem" class="problem" role="alert">{{ refused ?? problem }}</span>
  </span>
</template>

<style scoped>
.list-input {
  display: grid;
  gap: 0.1rem;
  width: 100%;
}
.field {
  font-variant-numeric: tabular-nums;
}
.problem {
  color: var(--brick);
  font-size: 13px;
}
</style>
