<script setup lang="ts">
import type { Setup } from '@gezeit/contract';
import Button from 'primevue/button';
import TextEdit from '../../shared/form/TextEdit.vue';
import type { Dash } from '../../shared/charts/setup-colours.js';
import SetupMark from '../../shared/ui/SetupMark.vue';

/** A setup's name and what can be done with it as a whole. */
defineProps<{ setup: Setup; colour: string; dash: Dash; isRemovable: boolean }>();
const emit = defineEmits<{
  patch: [what: string, change: (setup: Setup) => Setup];
  move: [by: number];
  duplicate: [];
  remove: [];
}>();
</script>

<template>
  <div>
    <div class="setup-head">
      <SetupMark :letter="setup.id" :colour="colour" :dash="dash" />
      <TextEdit
        class="name"
        :model-value="setup.name"
        :label="`Name of setup ${setup.id}`"
        @commit="$event && emit('patch', 'name', (now) => ({ ...now, name: $event }))"
      />
    </div>
    <div class="tools">
      <button
        type="button"
        :aria-pressed="setup.reference ?? false"
        :aria-label="`Setup ${setup.id} is the reference`"
        title="What the others are compared with"
        @click="emit('patch', setup.reference ? 'no reference' : 'reference', (now) => ({ ...now, reference: !now.reference }))"
      >
        reference
      </button>
      <button
        type="button"
        :aria-pressed="setup.bound ?? false"
        :aria-label="`Setup ${setup.id} is a bound`"
        title="Element, lid or tract removed: never for sale"
        @click="emit('patch', setup.bound ? 'no bound' : 'bound', (now) => ({ ...now, bound: !now.bound }))"
      >
        bound
      </button>
      <Button text size="small" icon="pi pi-arrow-left" :aria-label="`Move ${setup.id} left`" @click="emit('move', -1)" />
      <Button text size="small" icon="pi pi-arrow-right" :aria-label="`Move ${setup.id} right`" @click="emit('move', 1)" />
      <Button text size="small" icon="pi pi-copy" :aria-label="`Duplicate ${setup.id}`" @click="emit('duplicate')" />
      <Button
        text
        size="small"
        :icon="setup.archived ? 'pi pi-replay' : 'pi pi-box'"
        :aria-label="setup.archived ? `Bring ${setup.id} back` : `Archive ${setup.id}`"
        @click="emit('patch', setup.archived ? 'brought back' : 'archived', (now) => ({ ...now, archived: !now.archived }))"
      />
      <Button v-if="isRemovable" text size="small" icon="pi pi-times" :aria-label="`Remove ${setup.id}`" @click="emit('remove')" />
      <span v-if="setup.afterwards" class="tag">afterwards</span>
    </div>
  </div>
</template>

<style scoped>
.setup-head {
  display: flex;
  align-items: center;
  gap: 0.4rem;
}
.name {
  font-weight: 650;
  color: var(--ink);
}
.tools {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 0.1rem 0.3rem;
  margin-bottom: 0.2rem;
}
.tools > button[aria-pressed] {
  font: inherit;
  font-size: 13px;
  border: 1px solid var(--line);
  background: none;
  color: var(--muted);
  border-radius: 2px;
  padding: 0 0.35rem;
  cursor: pointer;
}
.tools > button[aria-pressed='true'] {
  border-color: var(--green);
  background: var(--green-soft);
  color: var(--ink);
  font-weight: 600;
}
.tag {
  margin-left: 0.5rem;
  padding: 0 0.35rem;
  border: 1px solid currentColor;
  border-radius: 2px;
  font-size: 13px;
  font-weight: 500;
}
</style>
