<script setup lang="ts">
import Dialog from 'primevue/dialog';
import { useTemplateRef } from 'vue';
import { focusFirst } from '../../shared/ui/focus-first.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { useDay, type DayDialog } from './day-store.js';

/** A dialog of the cell screen: large targets, the failure in it, closed by Esc without anything being done. */
defineProps<{ name: Exclude<DayDialog, null>; header: string; width?: string }>();
const day = useDay();
const content = useTemplateRef<HTMLElement>('content');
</script>

<template>
  <Dialog
    :visible="day.dialog === name"
    modal
    :header="header"
    :style="{ width: width ?? '36rem' }"
    :breakpoints="{ '700px': '96vw' }"
    class="cell-dialog"
    @show="focusFirst(content)"
    @update:visible="!$event && day.dialog === name && (day.dialog = null)"
  >
    <FailureNote v-if="day.failure" :failure="day.failure" />
    <div ref="content">
      <slot />
      <div v-if="$slots['actions']" class="actions"><slot name="actions" /></div>
    </div>
  </Dialog>
</template>

<style scoped>
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  justify-content: flex-end;
  margin-top: 1rem;
}
.actions :deep(.p-button) {
  min-height: 48px;
}
</style>
