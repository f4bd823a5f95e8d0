<script setup lang="ts">
import { computed } from 'vue';
import { ChoiceList } from './choice-list.js';

/** One of a few, by its words. Keys alone move the mark: a mouse that rests where the list opens would take it from them. */
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
/** The list keeps Esc to itself even while it is closed; then it belongs to the dialog that the field stands in. */
function passEscOn(event: KeyboardEvent): void {
  if ((event.target as HTMLElement).getAttribute('aria-expanded') === 'true') return;
  event.stopPropagation();
  (event.currentTarget as HTMLElement).parentElement?.dispatchEvent(
    new KeyboardEvent('keydown', { key: 'Escape', code: 'Escape', bubbles: true }),
  );
}
const options = computed(() => Object.entries(props.choices).map(([value, words]) => ({ value, words })));
</script>

<template>
  <ChoiceList
    :model-value="modelValue ?? null"
    :options="options"
    option-label="words"
    option-value="value"
    :placeholder="placeholder"
    :aria-label="label"
    :pt="describedBy ? { label: { 'aria-describedby': describedBy } } : undefined"
    :focus-on-hover="false"
    class="choice"
    @keydown.esc.capture="passEscOn"
    @update:model-value="emit('update:modelValue', $event)"
  />
</template>

<style scoped>
.choice {
  max-width: 100%;
}
</style>
