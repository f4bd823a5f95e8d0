<script setup lang="ts">
import type { Day } from '@gezeit/contract';
import Button from 'primevue/button';
import DatePicker from 'primevue/datepicker';
import { computed, ref } from 'vue';
import RowTable from '../../shared/form/RowTable.vue';
import type { CellValue, RowColumn } from '../../shared/form/row-columns.js';
import { useProgramme } from '../../model/programme-store.js';

/** Odometer and ECU software, by day. */
const programme = useProgramme();
const days = computed<Day[]>(() => programme.view!.bundle.days ?? []);
const M_PER_KM = 1000;
const date = ref<Date | null>(null);
const iso = (value: Date) =>
  `${value.getFullYear()}-${String(value.getMonth() + 1).padStart(2, '0')}-${String(value.getDate()).padStart(2, '0')}`;

function edit(what: string, change: (days: Day[]) => Day[]): void {
  void programme.edit('days', what, (now) => {
    const next = change(now ?? []);
    return next.length > 0 ? next : null;
  });
}
function add(): void {
  if (!date.value) return;
  const day = iso(date.value);
  edit(`day ${day} added`, (list) =>
    list.some((entry) => entry.day === day) ? list : [...list, { day }].sort((a, b) => (a.day < b.day ? -1 : 1)),
  );
  date.value = null;
}
const columns: RowColumn<Day>[] = [
  { name: 'day', label: 'Day', kind: 'shown', of: ({ day }) => day },
  {
    name: 'odometerKm',
    label: 'Odometer',
    kind: 'number',
    unit: 'km',
    width: '5.5rem',
    of: ({ odometerKm }) => (odometerKm == null ? null : odometerKm * M_PER_KM),
    aria: ({ day }) => `Odometer on ${day}`,
  },
  { name: 'ecuSoftware', label: 'ECU software', kind: 'text', of: (day) => day.ecuSoftware, aria: ({ day }) => `ECU software on ${day}` },
];
function set({ day }: Day, name: string, value: CellValue): void {
  const kept = typeof value === 'number' ? value / M_PER_KM : value;
  edit(`day ${day}`, (list) => list.map((entry) => (entry.day === day ? { ...entry, [name]: kept } : entry)));
}
</script>

<template>
  <div class="days">
    <h3>By day</h3>
    <RowTable
      v-if="days.length"
      :rows="days"
      :columns="columns"
      :row-key="({ day }) => day"
      :removes="({ day }) => `Remove ${day}`"
      @set="set"
      @remove="({ day }) => edit(`day ${day} removed`, (list) => list.filter((entry) => entry.day !== day))"
    />
    <div class="add">
      <DatePicker v-model="date" date-format="yy-mm-dd" placeholder="yyyy-mm-dd" aria-label="Day" size="small" />
      <Button size="small" outlined label="Add the day" :disabled="!date" @click="add" />
    </div>
  </div>
</template>

<style scoped>
.days {
  margin: 0.4rem 0;
}
h3 {
  font-size: 0.95rem;
}
.add {
  display: flex;
  gap: 0.4rem;
  margin-top: 0.3rem;
}
</style>
