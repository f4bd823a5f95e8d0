<script setup lang="ts">
import MultiSelect from 'primevue/multiselect';

/** Several of many, found by their words. Keys alone move the mark, as in a list of one choice. */
defineProps<{
  choices: readonly { key: string; label: string; disabled?: boolean }[];
  label: string;
  /** What stands in the field once something is chosen: the entries themselves would not fit. */
  said: string;
  placeholder?: string;
}>();
const chosen = defineModel<string[]>({ required: true });
</script>

<template>
  <MultiSelect
    v-model="chosen"
    :options="[...choices]"
    option-label="label"
    option-value="key"
    option-disabled="disabled"
    :max-selected-labels="0"
    :selected-items-label="said"
    :placeholder="placeholder"
    :show-toggle-all="false"
    :focus-on-hover="false"
    filter
    size="small"
    :aria-label="label"
  />
</template>
