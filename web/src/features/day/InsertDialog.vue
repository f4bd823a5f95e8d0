<script setup lang="ts">
import type { PullKind } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import { PULL_KINDS } from '../../shared/pull-kinds.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** A pull out of plan, next: measured, conditioning, tuning, or steady load and idle soak. */
const day = useDay();
const setup = ref('');
const kind = ref<PullKind>('measured');
const setups = computed(() =>
  Object.fromEntries(
    day.setups.filter(({ setup: entry }) => !entry.archived).map(({ setup: entry }) => [entry.id, `${entry.id} ${entry.name}`]),
  ),
);
watch(
  () => day.dialog === 'insert',
  () => {
    setup.value = day.state.fitted ?? '';
    kind.value = 'measured';
  },
);
async function insert(): Promise<void> {
  if (setup.value && (await day.act({ kind: 'inserted', setup: setup.value, pullKind: kind.value, count: 1 }))) day.dialog = null;
}
</script>

<template>
  <CellDialog name="insert" header="Insert a pull next">
    <div class="fields">
      <span>Setup</span><ChoiceInput v-model="setup" :choices="setups" label="Setup of the inserted pull" /> <span>Kind</span
      ><ChoiceInput
        :model-value="kind"
        :choices="PULL_KINDS"
        label="Kind of the inserted pull"
        @update:model-value="kind = $event as PullKind"
      />
    </div>
    <p class="muted">Tuning pulls and steady recordings are not compared; they heat and teach the car all the same.</p>
    <template #actions>
      <Button text label="Close" @click="day.dialog = null" />
      <Button label="Insert it" :disabled="setup === ''" @click="insert" />
    </template>
  </CellDialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 8rem 1fr;
  gap: 0.5rem 0.8rem;
  align-items: baseline;
}
</style>
