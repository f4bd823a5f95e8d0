<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';

/** One of a few, by its words. */
const props = withDefaults(
  defineProps<{
    modelValue: string | null | undefined;
    choices: Readonly<Record<string, string>>;
    label: string;
    placeholder?: string;
    describedBy?: string;
  }>(),
  { placeholder: 'choose', describedBy: undefined },
);
const emit = defineEmits<{ 'update:modelValue': [value: string] }>();
const options = computed(() => Object.entries(props.choices).map(([value, words]) => ({ value, words })));
</script>

<template>
  <Select
    :model-value="modelValue ?? null"
    :options="options"
    option-label="words"
    option-value="value"
    :placeholder="placeholder"
    :aria-label="label"
    :pt="describedBy ? { label: { 'aria-describedby': describedBy } } : {}"
    class="choice"
    @update:model-value="emit('update:modelValue', $event)"
  />
</template>

<style scoped>
.choice {
  max-width: 100%;
}
</style>
