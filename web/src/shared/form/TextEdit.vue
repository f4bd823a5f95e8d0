<script setup lang="ts">
import InputText from 'primevue/inputtext';
import Textarea from 'primevue/textarea';
import { ref, watch } from 'vue';

/** A text that is saved when it is left or Enter is pressed; Esc restores it. */
const props = withDefaults(
  defineProps<{
    modelValue: string | null | undefined;
    label: string;
    placeholder?: string;
    rows?: number;
    id?: string;
    describedBy?: string;
  }>(),
  { placeholder: '', rows: 1, id: undefined, describedBy: undefined },
);
const emit = defineEmits<{ commit: [value: string] }>();
const text = ref(props.modelValue ?? '');
const focused = ref(false);
/** What was handed on last: until something else is typed, what comes back stands for it, also where it was refused for another's change. */
let handedOn = text.value;
watch(
  () => props.modelValue,
  (value) => {
    if (focused.value && text.value.trim() !== handedOn) return;
    text.value = handedOn = value ?? '';
  },
);

function commit(): void {
  const value = text.value.trim();
  if (value === (props.modelValue ?? '')) return;
  handedOn = value;
  emit('commit', value);
}
function restore(event: KeyboardEvent): void {
  if (text.value === (props.modelValue ?? '')) return;
  event.stopPropagation();
  text.value = props.modelValue ?? '';
}
</script>

<template>
  <component
    :is="rows > 1 ? Textarea : InputText"
    :id="id"
    v-model="text"
    :aria-label="label"
    :aria-describedby="describedBy"
    :placeholder="placeholder"
    :rows="rows > 1 ? rows : undefined"
    class="text-edit"
    autocomplete="off"
    @focus="focused = true"
    @blur="
      focused = false;
      commit();
    "
    @keydown.enter="rows === 1 && commit()"
    @keydown.esc="restore"
  />
</template>

<style scoped>
.text-edit {
  width: 100%;
  min-width: 0;
}
</style>
