<script setup lang="ts">
import { zoneOf } from '@gezeit/core';
import type { LogView } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed, useTemplateRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import TideStrip from '../../parts/tide/TideStrip.vue';
import NextStep from '../../parts/NextStep.vue';
import { beforeLogs } from '../../model/next-step.js';
import { useProgramme } from '../../model/programme-store.js';
import { useStaged } from '../../model/staged-store.js';
import { useSelection } from '../../model/use-selection.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import DrivePanel from './drive/DrivePanel.vue';
import TraceDesk from './desk/TraceDesk.vue';
import HeatPanel from './heat/HeatPanel.vue';
import RestrictionPanel from './restriction/RestrictionPanel.vue';
import PullTable from './PullTable.vue';
import ReadReport from './ReadReport.vue';
import RoadPanel from './road/RoadPanel.vue';

/** Files, recognised channels, traces with the pull's window, and every pull with its flags. */
const programme = useProgramme();
const selection = useSelection();
const route = useRoute();
const router = useRouter();

const view = computed(() => programme.view!);
const next = computed(() => beforeLogs(view.value));
const hasHeat = computed(() => view.value.findings.pulls.some(({ heat }) => heat?.startAboveAmbientK != null));
const timeZone = computed(() => zoneOf(view.value.bundle));
const pull = computed(() => selection.pull.value ?? view.value.tide.pulls[0]?.id ?? null);
const logs = computed(() => view.value.logs.filter(({ pulls }) => pull.value !== null && pulls.includes(pull.value)));
const device = computed(() => (typeof route.query['device'] === 'string' ? route.query['device'] : null));
const log = computed<LogView | null>(
  () =>
    logs.value.find((entry) => entry.device === device.value) ??
    logs.value.find((entry) => entry.columns.some(({ quantity }) => quantity === 'power')) ??
    logs.value[0] ??
    null,
);
const picker = useTemplateRef<HTMLInputElement>('picker');
const staged = useStaged();

/** Logs that come later are sorted into this programme. */
async function addFiles(): Promise<void> {
  const files = [...(picker.value!.files ?? [])].map((file) => ({ path: file.name, file }));
  picker.value!.value = '';
  if (files.length === 0) return;
  const id = await staged.send(files, view.value.id);
  if (id) await router.push({ name: 'sort', params: { id } });
}
const choose = (entry: LogView) => void router.replace({ query: { ...route.query, device: entry.device } });
const finding = computed(() => view.value.findings.pulls.find(({ id }) => id === pull.value));
const detail = computed(() => view.value.pulls.find(({ id }) => id === pull.value));
</script>

<template>
  <div class="page">
    <h1 class="visually-hidden">Logs</h1>
    <input ref="picker" type="file" multiple hidden data-test="add-files" @change="addFiles" />
    <FailureNote v-if="staged.failure" :failure="staged.failure" />
    <template v-if="next">
      <NextStep v-bind="next" />
      <p>
        Or bring the logs of a day that is driven:
        <Button size="small" outlined label="Add files" @click="picker?.click()" />
      </p>
    </template>
    <TideStrip v-else :tide="view.tide" :time-zone="timeZone" />
    <template v-if="!next">
      <TraceDesk v-if="logs.length > 0" :key="view.logs[0]?.columns[0]?.id" />
      <p v-else class="muted">There is no log of pull {{ pull }}: its figures were typed, or nothing was logged.</p>
      <section class="table"><PullTable :time-zone="timeZone" /></section>
      <section v-if="hasHeat" class="table" aria-label="Heat"><HeatPanel /></section>
      <section v-if="view.findings.restriction.length > 0" class="table" aria-label="Restriction"><RestrictionPanel /></section>
      <section v-if="view.findings.road.runs.length > 0" class="table" aria-label="Road"><RoadPanel /></section>
      <section v-if="view.findings.drives.drives.length > 0" class="table" aria-label="Drives"><DrivePanel /></section>
      <section v-if="log" class="log">
        <div class="devices" role="group" aria-label="Logs of this pull">
          <b>Files of pull {{ pull }}</b>
          <button v-for="entry in logs" :key="entry.id" type="button" :aria-pressed="entry.id === log.id" @click="choose(entry)">
            {{ entry.device }}
          </button>
          <Button size="small" text label="Add files" @click="picker?.click()" />
          <a class="file" :href="`/api/logs/${log.id}/original`" download>{{ log.file }}</a>
        </div>
        <ReadReport :log="log" :logs="logs" :finding="finding" :detail="detail" />
      </section>
    </template>
  </div>
</template>

<style scoped>
.table,
.log {
  min-width: 0;
  margin-top: 0.7rem;
  padding-top: 0.7rem;
  border-top: 1px solid var(--line);
}
.devices {
  display: flex;
  align-items: center;
  gap: 0.4rem;
  margin-bottom: 0.3rem;
}
.devices button {
  font: inherit;
  padding: 0.1rem 0.6rem;
  border: 1px solid var(--neutral);
  border-radius: 3px;
  background: none;
  color: var(--ink);
  cursor: pointer;
}
.devices button[aria-pressed='true'] {
  border-color: var(--green);
  background: var(--green-soft);
}
.file {
  margin-left: auto;
  font-size: 13px;
}
</style>
