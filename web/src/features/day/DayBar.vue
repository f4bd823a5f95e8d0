<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import { RouterLink } from 'vue-router';
import { useDay, type DayDialog } from './day-store.js';
import RigPanel from './RigPanel.vue';
import type { DayActions } from './use-day-actions.js';

/** Everything that can be done on Day as buttons, each with its key: the action of the moment first. */
const props = defineProps<{ actions: DayActions }>();
const day = useDay();
const running = computed(() => props.actions.running.value);
const primary = computed(() => props.actions.primary.value);
const offers = computed(() => props.actions.offers.value);
const questions = computed(() => day.view?.questions.length ?? 0);
const underWay = computed(() => (day.view?.others ?? []).filter((other) => other.running));

interface Action {
  label: string;
  key: string;
  /** Said in full where the label is short. */
  says?: string;
  run: () => void;
}
const dialog = (label: string, key: string, name: DayDialog, says?: string): Action => ({
  label,
  key,
  ...(says ? { says } : {}),
  run: () => props.actions.open(name),
});
const { repeat, skip, abort, undo } = props.actions;
const OFTEN: readonly Action[] = [
  dialog('Note', 'n', 'note'),
  { label: 'Repeat last', key: 'r', run: repeat },
  { label: 'Skip', key: 'k', run: skip },
  { label: 'Aborted', key: 'a', run: abort },
  dialog('Changed', 'c', 'changed'),
  dialog('Readings', 't', 'readings'),
  dialog('Insert', 'i', 'insert'),
  dialog('Pull', 'o', 'pull', 'Open the selected pull'),
  { label: 'Undo', key: 'z', says: 'Take the last thing back', run: undo },
  dialog('Stop', 'h', 'stop', 'Stop, with the reason'),
  dialog('End', 'e', 'end', 'End the day'),
];
</script>

<template>
  <nav class="bar first" aria-label="What can be done">
    <Button
      v-if="primary"
      class="primary"
      :label="primary.label"
      :aria-keyshortcuts="primary.key"
      :disabled="!offers[primary.key]"
      @click="primary.run()"
    />
    <template v-if="running">
      <Button
        v-for="{ label, key, says, run } in OFTEN"
        :key="key"
        outlined
        :label="label"
        :aria-keyshortcuts="key"
        :aria-label="says"
        :disabled="!offers[key]"
        @click="run()"
      />
    </template>
    <span class="spacer" />
    <Button
      v-if="['wait', 'settle', 'swap'].includes(day.instruction.kind)"
      text
      severity="secondary"
      label="Pull anyway…"
      :disabled="!offers['p']"
      @click="actions.open('anyway')"
    />
    <Button
      v-if="day.instruction.kind === 'ended'"
      outlined
      label="Begin another day"
      :disabled="day.heldElsewhere !== null"
      @click="actions.begin()"
    />
  </nav>
  <div class="bar">
    <Button v-if="running" outlined label="Zero" aria-keyshortcuts="0" :disabled="!offers['0']" @click="actions.open('zero')" />
    <Button
      outlined
      :label="questions > 0 ? `Files: ${questions} to answer` : 'Files'"
      :class="{ asks: questions > 0 }"
      aria-keyshortcuts="f"
      @click="actions.open('files')"
    />
    <Button outlined label="Devices" aria-keyshortcuts="d" @click="actions.open('devices')" />
    <Button
      v-if="running && !day.state.away && underWay.length > 0"
      outlined
      label="Off the rollers"
      aria-keyshortcuts="u"
      :disabled="!offers['u']"
      @click="actions.rollers()"
    />
    <RouterLink v-for="other in underWay" :key="other.id" :to="{ name: 'day', params: { id: other.id } }"
      >Day under way too: {{ other.title }}</RouterLink
    >
    <RigPanel />
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem;
  align-items: center;
}
.first {
  position: sticky;
  bottom: 0;
  z-index: 5;
  background: var(--ground);
  padding: 0.3rem 0;
}
.bar :deep(.p-button) {
  min-height: 48px;
  min-width: 48px;
  padding: 0 0.45rem;
  font-size: 15.5px;
}
.bar :deep(.p-button[aria-keyshortcuts])::after {
  content: attr(aria-keyshortcuts);
  margin-left: 0.35rem;
  opacity: 0.7;
  font-size: 13px;
}
.bar .asks {
  border-color: var(--amber);
  color: var(--amber);
}
.spacer {
  flex: 1;
}
@media (max-width: 700px) {
  .first {
    position: static;
  }
}
</style>
