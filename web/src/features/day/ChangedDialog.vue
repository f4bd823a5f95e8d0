<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** Something changed outside the plan: what the car is now becomes a setup of its own, so that it is not forgotten. */
const day = useDay();
/** What of a setup's state changes in a cell most often. */
const KEYS: { key: string; label: string }[] = [
  { key: 'tune', label: 'Tune file' },
  { key: 'fuel', label: 'Fuel' },
  { key: 'fan', label: 'Fan' },
  { key: 'bonnet', label: 'Bonnet' },
  { key: 'gear', label: 'Gear' },
  { key: 'driveMode', label: 'Drive mode' },
  { key: 'tyrePressureKPa', label: 'Tyre pressure, kPa' },
];
const before = computed(() => day.bundle.setups.find(({ id }) => id === day.state.fitted) ?? null);
const values = ref<Record<string, string>>({});
const restOfDay = ref(false);
watch(
  () => day.dialog === 'changed',
  () => {
    values.value = Object.fromEntries(KEYS.map(({ key }) => [key, String(before.value?.state[key] ?? '')]));
    restOfDay.value = false;
  },
);
const changed = computed(() => KEYS.filter(({ key }) => values.value[key] !== String(before.value?.state[key] ?? '')));
const letter = computed(() => {
  const taken = new Set(day.bundle.setups.map(({ id }) => id));
  const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];
  return letters.find((entry) => !taken.has(entry)) ?? `S${taken.size + 1}`;
});
const stateValue = (key: string, text: string) =>
  key === 'tyrePressureKPa' && text.trim() !== '' && !Number.isNaN(Number(text)) ? Number(text) : text.trim();

async function keep(): Promise<void> {
  const setup = before.value;
  if (!setup || changed.value.length === 0) return;
  const state = { ...setup.state, ...Object.fromEntries(changed.value.map(({ key }) => [key, stateValue(key, values.value[key]!)])) };
  const words = changed.value.map(({ key, label }) => `${label.toLowerCase()} ${values.value[key]}`).join(', ');
  const done = await day.act({
    kind: 'setup-changed',
    setup: { ...setup, id: letter.value, name: `${setup.name}, ${words}`, reference: false, state },
    restOfDay: restOfDay.value,
  });
  if (done) day.dialog = null;
}
</script>

<template>
  <CellDialog name="changed" header="Something changed">
    <p>
      Write what is different from <b>{{ before?.id }} {{ before?.name }}</b
      >. From now on pulls belong to a new setup <b>{{ letter }}</b>; the judgement never mixes the two.
    </p>
    <form class="fields" @submit.prevent="keep">
      <template v-for="entry in KEYS" :key="entry.key">
        <label :for="`changed-${entry.key}`">{{ entry.label }}</label>
        <InputText :id="`changed-${entry.key}`" v-model="values[entry.key]" autocomplete="off" maxlength="120" />
      </template>
    </form>
    <label class="rest"
      ><input v-model="restOfDay" type="checkbox" /> for the rest of the day: what is planned with {{ before?.id }} is driven so</label
    >
    <template #actions>
      <Button text label="Close" @click="day.dialog = null" />
      <Button :label="`It is setup ${letter} now`" :disabled="changed.length === 0" @click="keep" />
    </template>
  </CellDialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 10rem 1fr;
  gap: 0.4rem 0.8rem;
  align-items: center;
  margin: 0.8rem 0;
}
.rest {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  min-height: 42px;
}
</style>
