<script setup lang="ts">
import type { DeviceSetting } from '@gezeit/contract';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import { useAccess } from '../../shared/access-store.js';
import { api } from '../../shared/api/client.js';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** What the day listens to. Gezeit only listens: it controls no machine. */
const day = useDay();
const access = useAccess();
const path = ref('');
const takeExisting = ref(false);
const address = ref('tcp://127.0.0.1:');
const keep = ref(true);
const devices = computed(() => day.view?.devices ?? []);
const hasRig = computed(() => devices.value.some(({ setting }) => setting.kind === 'rig'));
const NAMES = { folder: 'Watched folder', stream: 'Stream', rig: 'Simulated rig', unreadable: 'A device' };
const STATES = { listening: 'listening', waiting: 'waiting', failed: 'cannot be reached' };

function freeId(kind: DeviceSetting['kind']): string {
  const taken = new Set(devices.value.map(({ setting }) => setting.id));
  let number = 1;
  while (taken.has(`${kind}-${number}`)) number += 1;
  return `${kind}-${number}`;
}
const add = (setting: DeviceSetting) => day.ask((id) => api.setDevice(id, setting));
async function addFolder(): Promise<void> {
  if (path.value.trim() && (await add({ id: freeId('folder'), kind: 'folder', path: path.value.trim(), takeExisting: takeExisting.value })))
    path.value = '';
}
const addStream = () => add({ id: freeId('stream'), kind: 'stream', address: address.value.trim(), keep: keep.value });
const addRig = () =>
  add({ id: freeId('rig'), kind: 'rig', speed: 1, follows: true, seed: 1 + Math.floor(Math.random() * 100_000), clockWrongS: 0 });
const remove = (id: string) => day.ask((programme) => api.removeDevice(programme, id));
</script>

<template>
  <CellDialog name="devices" header="Devices" width="44rem">
    <ul class="devices" aria-label="Devices that are listened to">
      <li v-for="device in devices" :key="device.setting.id">
        <b>{{ NAMES[device.setting.kind] }}</b>
        <span :class="device.state">{{ STATES[device.state] }}</span>
        <span class="muted detail">{{ device.detail }}{{ device.files > 0 ? `; ${device.files} files taken` : '' }}</span>
        <Button
          v-if="!access.isOverNetwork"
          text
          size="small"
          icon="pi pi-times"
          :aria-label="`Stop listening to ${device.setting.id}`"
          @click="remove(device.setting.id)"
        />
      </li>
      <li v-if="devices.length === 0" class="muted">
        Nothing is listened to: pulls are begun by key, readings typed, files brought by hand.
      </li>
    </ul>
    <p v-if="access.isOverNetwork" class="muted">
      Devices and watched folders are set on the machine in the cell itself; what they bring is seen here too.
    </p>
    <form v-if="!access.isOverNetwork" class="add" @submit.prevent="addFolder">
      <h3>Watched folder</h3>
      <InputText v-model="path" aria-label="Path of the folder" placeholder="/path/of/the/logger's/exports" autocomplete="off" />
      <label><input v-model="takeExisting" type="checkbox" /> take what lies there already</label>
      <Button type="submit" outlined label="Watch it" :disabled="path.trim() === ''" />
    </form>
    <form v-if="!access.isOverNetwork" class="add" @submit.prevent="addStream">
      <h3>Stream of lines</h3>
      <InputText v-model="address" aria-label="Address of the stream" autocomplete="off" />
      <label><input v-model="keep" type="checkbox" /> keep each pull’s stream as its log</label>
      <Button type="submit" outlined label="Listen" />
    </form>
    <form v-if="!access.isOverNetwork" class="add" @submit.prevent="addRig">
      <h3>Simulated rig</h3>
      <p class="muted">
        A made-up cell with this programme’s car: it streams, writes its loggers’ files in three dialects, and goes up to 60 times as fast.
      </p>
      <Button type="submit" outlined label="Start the rig" :disabled="hasRig" />
    </form>
    <template #actions><Button text label="Close" @click="day.dialog = null" /></template>
  </CellDialog>
</template>

<style scoped>
.devices {
  list-style: none;
  padding: 0;
}
.devices li {
  display: flex;
  gap: 0.8rem;
  align-items: center;
  border-bottom: 1px solid var(--line);
  min-height: 48px;
}
.detail {
  flex: 1;
}
.failed {
  color: var(--brick);
}
.add {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0.4rem 0.8rem;
  align-items: center;
  margin-top: 1rem;
}
.add h3 {
  grid-column: 1 / -1;
  font-size: 1rem;
  margin: 0;
}
.add label {
  grid-column: 1;
}
.add :deep(.p-button) {
  min-height: 48px;
}
</style>
