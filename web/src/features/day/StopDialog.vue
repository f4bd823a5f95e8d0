<script setup lang="ts">
import { stopText } from '@gezeit/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** A stop that somebody calls: a fault code, a noise, a smell. It stays until it is acknowledged. */
const day = useDay();
const show = useShow();
const text = ref('');
const limits = computed(() => day.stops.map((stop) => stopText(stop, show.value.words)));
watch(
  () => day.dialog,
  () => (text.value = ''),
);
async function stop(): Promise<void> {
  const why = text.value.trim();
  if (why && (await day.act({ kind: 'stop-raised', criterion: 'called', text: why }))) day.dialog = null;
}
</script>

<template>
  <CellDialog name="stop" header="Stop">
    <p>The emergency stop is the cell’s own button: this only records why, and holds the next pull back.</p>
    <p class="muted">Agreed limits: {{ limits.join('; ') }}.</p>
    <form class="fields" @submit.prevent="stop">
      <label for="stop-why">What was seen or heard</label>
      <InputText id="stop-why" v-model="text" autofocus maxlength="300" autocomplete="off" />
    </form>
    <template #actions>
      <Button text label="Close" @click="day.dialog = null" />
      <Button class="halt" label="Stop" :disabled="text.trim() === ''" @click="stop" />
    </template>
  </CellDialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 0.3rem;
  margin-top: 0.8rem;
}
.halt {
  background: var(--brick);
  border-color: var(--brick);
}
</style>
