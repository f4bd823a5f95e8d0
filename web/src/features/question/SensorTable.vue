<script setup lang="ts">
import type { Cell } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed } from 'vue';
import RowTable from '../../shared/form/RowTable.vue';
import type { RowColumn } from '../../shared/form/row-columns.js';

/** The cell's sensors: what each reads, where it sits, and how far it is to be believed. */
type Sensor = NonNullable<Cell['sensors']>[number];
const props = defineProps<{ cell: Cell }>();
const emit = defineEmits<{ change: [what: string, change: (now: Sensor[]) => Sensor[]] }>();
const sensors = computed<Sensor[]>(() => props.cell.sensors ?? []);
const COLUMNS = {
  channel: 'Channel',
  place: 'Place',
  range: 'Range',
  accuracy: 'Accuracy',
  calibratedOn: 'Calibrated',
} as const;
const columns = Object.entries(COLUMNS).map(([name, label]): RowColumn<Sensor> => ({
  name,
  label,
  kind: 'text',
  needed: name === 'channel',
  of: (sensor) => sensor[name as keyof typeof COLUMNS],
  aria: (_, index) => `${label} of sensor ${index + 1}`,
}));
const change = (what: string, next: (now: Sensor[]) => Sensor[]) => emit('change', what, next);
</script>

<template>
  <div class="sensors">
    <h3>Sensors</h3>
    <RowTable
      v-if="sensors.length"
      :rows="sensors"
      :columns="columns"
      :row-key="(_, index) => index"
      :removes="({ channel }) => `Remove sensor ${channel}`"
      @set="(_, name, value, index) => change('sensor changed', (now) => now.with(index, { ...now[index]!, [name]: value ?? '' }))"
      @remove="(_, index) => change('sensor removed', (now) => now.toSpliced(index, 1))"
    />
    <Button
      size="small"
      text
      icon="pi pi-plus"
      label="Add a sensor"
      @click="change('sensor added', (now) => [...now, { channel: 'new channel', place: '', range: '', accuracy: '' }])"
    />
  </div>
</template>

<style scoped>
h3 {
  font-size: 0.95rem;
}
.sensors {
  margin: 0.3rem 0;
}
</style>
