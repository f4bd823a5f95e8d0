<script setup lang="ts">
import { numberText, typedNumber, fieldUnit, ownUnit } from '@gezeit/core';
import InputText from 'primevue/inputtext';
import { computed, ref, useId, watch } from 'vue';
import { useUnits } from '../units/units-store.js';

/** A number kept in a unit of its own, typed in the chosen one of its kind (or with another); its unit stands beside it. */
const props = withDefaults(
  defineProps<{ value: number | null; label: string; unit?: string; difference?: boolean; least?: number; most?: number }>(),
  { unit: '–', difference: false, least: -Infinity, most: Infinity },
);
const emit = defineEmits<{ commit: [value: number] }>();
const units = useUnits();
const own = computed(() => ownUnit(props.unit, props.difference));
const shown = computed(() => fieldUnit(own.value.name, own.value.difference, units.chosen));
const textOf = (value: number | null) =>
  value === null ? '' : numberText(own.value.toInside(value), shown.value, own.value.difference, 4);
const text = ref(textOf(props.value));
const problem = ref<string | null>(null);
const messageId = useId();
watch([() => props.value, shown], () => {
  text.value = textOf(props.value);
  problem.value = null;
});

function commit(): void {
  if (text.value.trim() === '' || text.value === textOf(props.value)) {
    text.value = textOf(props.value);
    problem.value = null;
    return;
  }
  const read = typedNumber(text.value, shown.value, own.value.difference);
  if (!read.understood) {
    problem.value = read.problem;
    return;
  }
  const value = own.value.fromInside(read.value);
  problem.value =
    value < props.least ? `Type at least ${textOf(props.least)}.` : value > props.most ? `Type at most ${textOf(props.most)}.` : null;
  if (problem.value !== null) return;
  text.value = textOf(value);
  if (value !== props.value) emit('commit', value);
}
</script>

<template>
  <span class="plain">
    <InputText
      v-model="text"
      :aria-label="label"
      :invalid="problem !== null"
      :aria-describedby="problem ? messageId : undefined"
      class="plain-number"
      autocomplete="off"
      inputmode="decimal"
      @blur="commit"
      @keydown.enter="commit"
    />
    <span v-if="problem" :id="messageId" class="problem" role="alert">{{ problem }}</span>
  </span>
</template>

<style scoped>
.plain {
  position: relative;
  display: inline-block;
}
/* Over what stands below: a table does not change its columns for it. */
.problem {
  position: absolute;
  z-index: 3;
  top: 100%;
  left: 0;
  width: 15rem;
  padding: 0.2rem 0.4rem;
  background: var(--surface);
  border: 1px solid var(--brick);
  color: var(--brick);
  font-size: 13px;
  text-align: left;
  white-space: normal;
}
.plain-number {
  width: 4.2rem;
  text-align: right;
}
</style>
