<script setup lang="ts">
import { typedNumber } from '@gezeit/core';
import InputText from 'primevue/inputtext';
import { ref, useId, watch } from 'vue';

/** A bare number whose unit stands beside it. */
const props = withDefaults(defineProps<{ value: number | null; label: string; least?: number }>(), { least: -Infinity });
const emit = defineEmits<{ commit: [value: number] }>();
const text = ref(props.value === null ? '' : String(props.value));
const problem = ref<string | null>(null);
const messageId = useId();
watch(
  () => props.value,
  (value) => {
    text.value = value === null ? '' : String(value);
    problem.value = null;
  },
);

function commit(): void {
  if (text.value.trim() === '') {
    text.value = props.value === null ? '' : String(props.value);
    problem.value = null;
    return;
  }
  const read = typedNumber(text.value, '–');
  problem.value = !read.understood ? read.problem : read.value < props.least ? `Type at least ${props.least}.` : null;
  if (read.understood && problem.value === null && read.value !== props.value) emit('commit', read.value);
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
