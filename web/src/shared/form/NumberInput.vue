<script setup lang="ts">
import { numberText, typedNumber, type UnitName, fieldUnit } from '@gezeit/core';
import InputText from 'primevue/inputtext';
import { computed, ref, useId, watch } from 'vue';
import { useUnits } from '../units/units-store.js';

/** A number typed with or without its unit; says what it understood, and keeps what it did not. */
const props = withDefaults(
  defineProps<{
    /** In the unit kept inside; null where nothing is said. */
    modelValue: number | null;
    unit: UnitName;
    label: string;
    difference?: boolean;
    optional?: boolean;
    /** Shown where nothing is said: a default or an example. */
    placeholder?: string;
    /** The range in which it makes sense, in the unit kept inside. */
    least?: number;
    most?: number;
    /** What is wrong with the value beyond its being a number in that range. */
    problem?: string | null;
    describedBy?: string;
    id?: string;
    width?: string;
  }>(),
  {
    least: -Infinity,
    most: Infinity,
    difference: false,
    optional: false,
    placeholder: '',
    problem: null,
    describedBy: undefined,
    id: undefined,
    width: '6.5rem',
  },
);
const emit = defineEmits<{ 'update:modelValue': [value: number | null]; commit: [value: number | null] }>();

const units = useUnits();
const shownUnit = computed(() => fieldUnit(props.unit, props.difference, units.chosen));
const own = computed(() => (props.modelValue === null ? '' : numberText(props.modelValue, shownUnit.value, props.difference)));
const text = ref(own.value);
const focused = ref(false);
const refused = ref<string | null>(null);
const messageId = useId();
let committed = props.modelValue;
/** What the text was last understood as: the page may store it later, or not at all. */
let latest = props.modelValue;

// What is being typed, or was not understood, is not overwritten; what was handed on is, also where it was refused for another's change.
watch(own, (value) => {
  const isTyping = focused.value && latest !== committed;
  if (!isTyping && refused.value === null) text.value = value;
  if (!isTyping) committed = latest = props.modelValue;
});

const understood = computed(() => {
  if (text.value.trim() === '') return null;
  const read = typedNumber(text.value, shownUnit.value, props.difference);
  return read.understood && read.unit !== shownUnit.value
    ? `= ${numberText(read.value, shownUnit.value, props.difference, 4)} ${shownUnit.value}`
    : null;
});
const message = computed(() => refused.value ?? props.problem);

function onInput(value: string | undefined): void {
  text.value = value ?? '';
  if (text.value.trim() === '' && props.optional) {
    refused.value = null;
    latest = null;
    emit('update:modelValue', null);
    return;
  }
  const read = typedNumber(text.value, shownUnit.value, props.difference);
  refused.value = read.understood ? outOfRange(read.value) : read.problem;
  if (!read.understood || refused.value !== null) {
    // A number that was understood on the way to this text does not count: what stood there before does.
    if (latest !== committed) emit('update:modelValue', committed);
    latest = committed;
    return;
  }
  latest = read.value;
  emit('update:modelValue', read.value);
}

/** What to type instead of a number that makes no sense here; null where it does. */
function outOfRange(value: number): string | null {
  const limit = value < props.least ? props.least : value > props.most ? props.most : null;
  if (limit === null) return null;
  const unit = shownUnit.value === '–' ? '' : ` ${shownUnit.value}`;
  return `Type at ${value < props.least ? 'least' : 'most'} ${numberText(limit, shownUnit.value, props.difference)}${unit}.`;
}

function onBlur(): void {
  focused.value = false;
  commit();
}

function commit(): void {
  if (text.value.trim() === '' && !props.optional) {
    text.value = own.value;
    refused.value = null;
    return;
  }
  if (refused.value !== null) return;
  text.value = latest === null ? '' : numberText(latest, shownUnit.value, props.difference);
  if (latest === committed) return;
  committed = latest;
  emit('commit', latest);
}
</script>

<template>
  <span class="number-input">
    <span class="line">
      <InputText
        :id="id"
        :model-value="text"
        :aria-label="label"
        :aria-invalid="message !== null"
        :aria-describedby="[describedBy, message ? messageId : null].filter(Boolean).join(' ') || undefined"
        :invalid="message !== null"
        :placeholder="placeholder"
        :style="{ width }"
        class="field"
        autocomplete="off"
        inputmode="decimal"
        @update:model-value="onInput"
        @focus="focused = true"
        @blur="onBlur"
        @keydown.enter="commit"
      />
      <span v-if="shownUnit !== '–'" class="unit">{{ shownUnit }}</span>
      <span v-if="understood && focused" class="understood" aria-live="polite">{{ understood }}</span>
    </span>
    <span v-if="message" :id="messageId" class="problem" role="alert">{{ message }}</span>
  </span>
</template>

<style scoped>
.number-input {
  display: inline-grid;
}
.line {
  display: inline-flex;
  align-items: baseline;
  gap: 0.35rem;
}
.field {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.unit,
.understood {
  color: var(--muted);
  white-space: nowrap;
  font-size: 13px;
}
.understood {
  color: var(--green);
  font-weight: 600;
}
.problem {
  color: var(--brick);
  font-size: 13px;
  max-width: 22rem;
}
</style>
