<script setup lang="ts">
import { changeText } from '@gezeit/core';
import { useTimeoutFn } from '@vueuse/core';
import { watch } from 'vue';
import { useProgramme } from '../../model/programme-store.js';

/** Says for a while what an undo has taken back: a key does it as well, on whatever page. */
const programme = useProgramme();
const SHOWN_MS = 6000;
const { start, stop } = useTimeoutFn(() => (programme.takenBack = null), SHOWN_MS, { immediate: false });
watch(
  () => programme.takenBack,
  (change) => (change ? start() : stop()),
);
</script>

<template>
  <p class="undone" role="status">
    <span v-if="programme.takenBack">Taken back: {{ changeText(programme.takenBack) }}</span>
  </p>
</template>

<style scoped>
.undone {
  position: fixed;
  left: 1.4rem;
  bottom: 1rem;
  z-index: 5;
  max-width: min(40rem, calc(100vw - 2.8rem));
  margin: 0;
  overflow-wrap: anywhere;
  pointer-events: none;
}
.undone span {
  display: block;
  padding: 0.45rem 0.8rem;
  border: 1px solid var(--green);
  border-radius: 4px;
  background: var(--green-soft);
  color: var(--ink);
}
</style>
