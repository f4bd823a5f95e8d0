<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import { attributeRows, changeAttribute } from '../../model/setup-rows.js';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** Something changed outside the plan: what the car is now becomes a setup of its own, so that it is not forgotten. */
const day = useDay();
const show = useShow();
/** What of a setup's state changes in a cell most often. */
const KEYS = ['tune', 'fuel', 'fan', 'bonnet', 'gear', 'driveMode', 'tyrePressureKPa'];
const before = computed(() => day.bundle.setups.find(({ id }) => id === day.state.fitted) ?? null);
const rows = computed(() => {
  const pressure = (kPa: number) => `${show.value.pressure(kPa)} ${show.value.units.pressure}`;
  const all = before.value ? attributeRows([before.value], pressure, KEYS) : [];
  return KEYS.flatMap((key) => all.find((row) => row.kind === 'state' && row.key === key) ?? []);
});
const values = ref<Record<string, string>>({});
const restOfDay = ref(false);
watch(
  () => day.dialog === 'changed',
  () => {
    values.value = Object.fromEntries(rows.value.map(({ key, edits }) => [key, edits[0] ?? '']));
    restOfDay.value = false;
  },
);
const changed = computed(() => rows.value.filter(({ key, edits }) => (values.value[key] ?? '').trim() !== (edits[0] ?? '')));
const letter = computed(() => {
  const taken = new Set(day.bundle.setups.map(({ id }) => id));
  const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];
  return letters.find((entry) => !taken.has(entry)) ?? `S${taken.size + 1}`;
});

async function keep(): Promise<void> {
  if (!before.value || changed.value.length === 0) return;
  const { pressure } = show.value.units;
  const setup = changed.value.reduce((now, row) => changeAttribute(now, row, values.value[row.key]!, pressure), before.value);
  const words = changed.value.map(({ key, label }) => `${label.toLowerCase()} ${values.value[key]!.trim() || 'not said'}`).join(', ');
  const done = await day.act({
    kind: 'setup-changed',
    setup: { ...setup, id: letter.value, name: `${setup.name}, ${words}`, reference: false },
    restOfDay: restOfDay.value,
  });
  if (done) day.dialog = null;
}
</script>

<template>
  <CellDialog name="changed" header="Something changed">
    <p>
      Write what is different from <b>{{ before?.id }} {{ before?.name }}</b>. From now on pulls belong to a new setup <b>{{ letter }}</b>;
      the judgement never mixes the two.
    </p>
    <form class="fields" @submit.prevent="keep">
      <template v-for="row in rows" :key="row.key">
        <label :for="`changed-${row.key}`">{{ row.label }}</label>
        <InputText :id="`changed-${row.key}`" v-model="values[row.key]" autocomplete="off" maxlength="120" />
      </template>
      <button type="submit" hidden />
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
  min-height: 48px;
}
</style>
