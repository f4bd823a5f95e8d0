<script setup lang="ts">
import { typedNumber } from '@gezeit/core';
import InputText from 'primevue/inputtext';
import { ref, watch } from 'vue';

/** A bare number whose unit stands beside it. */
const props = withDefaults(defineProps<{ value: number | null; label: string; least?: number }>(), { least: -Infinity });
const emit = defineEmits<{ commit: [value: number] }>();
const text = ref(props.value === null ? '' : String(props.value));
const bad = ref(false);
watch(
  () => props.value,
  (value) => (text.value = value === null ? '' : String(value)),
);

function commit(): void {
  if (text.value.trim() === '') {
    text.value = props.value === null ? '' : String(props.value);
    return;
  }
  const read = typedNumber(text.value, '–');
  bad.value = !read.understood || read.value < props.least;
  if (read.understood && !bad.value && read.value !== props.value) emit('commit', read.value);
}
</script>

<template>
  <InputText
    v-model="text"
    :aria-label="label"
    :invalid="bad"
    class="plain-number"
    autocomplete="off"
    inputmode="decimal"
    @blur="commit"
    @keydown.enter="commit"
  />
</template>

<style scoped>
.plain-number {
  width: 4.2rem;
  text-align: right;
}
</style>
