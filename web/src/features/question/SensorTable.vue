<script setup lang="ts">
import type { Cell } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed } from 'vue';
import TextEdit from '../../shared/form/TextEdit.vue';

/** The cell's sensors: what each reads, where it sits, and how far it is to be believed. */
type Sensor = NonNullable<Cell['sensors']>[number];
const props = defineProps<{ cell: Cell }>();
const emit = defineEmits<{ change: [what: string, change: (now: Sensor[]) => Sensor[]] }>();
const sensors = computed<Sensor[]>(() => props.cell.sensors ?? []);
const COLUMNS = [
  { key: 'channel', label: 'Channel' },
  { key: 'place', label: 'Place' },
  { key: 'range', label: 'Range' },
  { key: 'accuracy', label: 'Accuracy' },
  { key: 'calibratedOn', label: 'Calibrated' },
] as const;
const change = (what: string, next: (now: Sensor[]) => Sensor[]) => emit('change', what, next);
const add = () => change('sensor added', (now) => [...now, { channel: 'new channel', place: '', range: '', accuracy: '' }]);
const patch = (index: number, key: string, value: string) => {
  if (key === 'channel' && value === '') return;
  change('sensor changed', (now) => now.map((sensor, i) => (i === index ? { ...sensor, [key]: value } : sensor)));
};
const remove = (index: number) => change('sensor removed', (now) => now.filter((_, i) => i !== index));
</script>

<template>
  <div class="sensors scroll">
    <h3>Sensors</h3>
    <table v-if="sensors.length" class="dense">
      <thead>
        <tr>
          <th v-for="column in COLUMNS" :key="column.key">{{ column.label }}</th>
          <th><span class="visually-hidden">Remove</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(sensor, index) in sensors" :key="index">
          <td v-for="column in COLUMNS" :key="column.key">
            <TextEdit
              :model-value="sensor[column.key]"
              :label="`${column.label} of sensor ${index + 1}`"
              @commit="patch(index, column.key, $event)"
            />
          </td>
          <td>
            <Button text size="small" icon="pi pi-times" :aria-label="`Remove sensor ${sensor.channel}`" @click="remove(index)" />
          </td>
        </tr>
      </tbody>
    </table>
    <Button size="small" text icon="pi pi-plus" label="Add a sensor" @click="add" />
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
