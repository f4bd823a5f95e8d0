<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Popover from 'primevue/popover';
import { computed, ref, useTemplateRef } from 'vue';
import { useProgramme } from '../../../model/programme-store.js';
import { useDesk } from './desk-store.js';

/** What was looked at, kept by name with the programme. */
const desk = useDesk();
const programme = useProgramme();
const panel = useTemplateRef<InstanceType<typeof Popover>>('panel');
const name = ref('');
const views = computed(() => programme.stored?.bundle.traceViews ?? []);
const isKnown = computed(() => views.value.some((view) => view.name === name.value.trim()));

async function keep(): Promise<void> {
  const view = desk.asView(name.value.trim());
  if (view.name === '') return;
  const kept = await programme.edit('traceViews', `view ${view.name} of the traces kept`, (before) => [
    ...(before ?? []).filter((other) => other.name !== view.name),
    view,
  ]);
  if (kept) name.value = '';
}
const forget = (gone: string) =>
  programme.edit('traceViews', `view ${gone} of the traces removed`, (before) => {
    const left = (before ?? []).filter((view) => view.name !== gone);
    return left.length > 0 ? left : null;
  });
function open(view: (typeof views.value)[number]): void {
  desk.show(view);
  panel.value?.hide();
}
</script>

<template>
  <Button
    text
    size="small"
    :label="views.length === 0 ? 'Views' : `Views (${views.length})`"
    aria-haspopup="dialog"
    @click="panel?.toggle($event)"
  />
  <Popover ref="panel" aria-label="Views of the traces">
    <ul v-if="views.length > 0" class="views">
      <li v-for="view in views" :key="view.name">
        <Button text size="small" :label="view.name" @click="open(view)" />
        <Button text size="small" icon="pi pi-trash" :aria-label="`Remove view ${view.name}`" @click="forget(view.name)" />
      </li>
    </ul>
    <p v-else class="muted">None is kept yet: pulls, channels, formulas and axis as they are now can be.</p>
    <form class="keep" @submit.prevent="keep">
      <InputText
        v-model="name"
        size="small"
        aria-label="Name of the view"
        placeholder="boost against spark"
        maxlength="80"
        autocomplete="off"
      />
      <Button type="submit" outlined size="small" :label="isKnown ? 'Replace' : 'Keep'" :disabled="name.trim() === ''" />
    </form>
  </Popover>
</template>

<style scoped>
.views {
  list-style: none;
  margin: 0 0 0.5rem;
  padding: 0;
}
.views li,
.keep {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 0.5rem;
}
</style>
