<script setup lang="ts">
import type { Day } from '@gezeit/contract';
import Button from 'primevue/button';
import DatePicker from 'primevue/datepicker';
import { computed, ref } from 'vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { useProgramme } from '../../model/programme-store.js';

/** Odometer and ECU software, by day. */
const programme = useProgramme();
const days = computed<Day[]>(() => programme.view!.bundle.days ?? []);
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
const patch = (day: string, change: Partial<Day>) =>
  edit(`day ${day}`, (list) => list.map((entry) => (entry.day === day ? { ...entry, ...change } : entry)));
</script>

<template>
  <div class="days">
    <h3>By day</h3>
    <table v-if="days.length" class="dense">
      <thead>
        <tr>
          <th>Day</th>
          <th class="number">Odometer</th>
          <th>ECU software</th>
          <th><span class="visually-hidden">Remove</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="entry in days" :key="entry.day">
          <td>{{ entry.day }}</td>
          <td class="number">
            <NumberInput
              :model-value="entry.odometerKm == null ? null : entry.odometerKm * 1000"
              unit="km"
              :label="`Odometer on ${entry.day}`"
              optional
              width="5.5rem"
              @commit="patch(entry.day, { odometerKm: $event === null ? null : $event / 1000 })"
            />
          </td>
          <td>
            <TextEdit
              :model-value="entry.ecuSoftware"
              :label="`ECU software on ${entry.day}`"
              @commit="patch(entry.day, { ecuSoftware: $event || null })"
            />
          </td>
          <td>
            <Button
              text
              size="small"
              icon="pi pi-times"
              :aria-label="`Remove ${entry.day}`"
              @click="edit(`day ${entry.day} removed`, (list) => list.filter(({ day }) => day !== entry.day))"
            />
          </td>
        </tr>
      </tbody>
    </table>
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
