<script setup lang="ts">
import type { ChecklistName } from '@gezeit/contract';
import { checklists } from '@gezeit/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import { usePlan } from '../../model/plan-store.js';
import { freshOwnId } from './offered.js';

/** The day's checklists. Safety items can be added to, never taken off. */
const plan = usePlan();
const lists = computed(() => checklists(plan.bundle));
const typed = ref<Partial<Record<ChecklistName, string>>>({});
type Item = ReturnType<typeof checklists>[number]['items'][number];

function setItems(name: ChecklistName, change: (items: Item[]) => Item[]): void {
  const items = lists.value.find((list) => list.name === name)!.items;
  plan.change('checklist', (now) => ({ ...now, checklists: { ...now.checklists, [name]: change(items) } }));
}
function add(name: ChecklistName): void {
  const text = typed.value[name]?.trim();
  if (!text) return;
  setItems(name, (items) => [...items, { id: freshOwnId(items), text, safety: false }]);
  typed.value[name] = '';
}
</script>

<template>
  <div class="lists">
    <div v-for="list in lists" :key="list.name">
      <h2>{{ list.title }}</h2>
      <ul>
        <li v-for="entry in list.items" :key="entry.id">
          <span>{{ entry.text }}</span>
          <span v-if="entry.safety" class="safety" title="Safety: cannot be taken off">safety</span>
          <Button
            v-else
            text
            size="small"
            icon="pi pi-times"
            :aria-label="`Take off: ${entry.text}`"
            @click="setItems(list.name, (items) => items.filter(({ id }) => id !== entry.id))"
          />
        </li>
      </ul>
      <form @submit.prevent="add(list.name)">
        <InputText v-model="typed[list.name]" :aria-label="`Add to: ${list.title}`" placeholder="add…" autocomplete="off" maxlength="200" />
      </form>
    </div>
  </div>
</template>

<style scoped>
.lists {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(17rem, 100%), 1fr));
  gap: 1rem 2rem;
  margin-top: 0.8rem;
}
.lists > * {
  min-width: 0;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 0.5rem;
  border-bottom: 1px solid var(--line);
  padding: 0.12rem 0;
}
.safety {
  font-size: 13px;
  border: 1px solid currentColor;
  border-radius: 2px;
  padding: 0 0.3rem;
  color: var(--brick);
}
</style>
