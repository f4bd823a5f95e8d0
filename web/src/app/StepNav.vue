<script setup lang="ts">
import { changeText } from '@gezeit/core';
import { computed } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import Button from 'primevue/button';
import { useProgramme } from '../model/programme-store.js';
import { dayWords } from '../shared/day-words.js';
import { STEP_NAMES, STEP_TITLES } from '../model/step-names.js';
import { STEP_STATES } from '../model/step-states.js';

/** Inside a programme: its steps with how far each one is, its title, and undo. */
const route = useRoute();
const programme = useProgramme();
const steps = computed(() => {
  const { view } = programme;
  return STEP_NAMES.map((name) => ({
    name,
    title: STEP_TITLES[name],
    ...(view ? STEP_STATES[name](view) : { state: 'nothing' as const, why: '' }),
  }));
});
</script>

<template>
  <nav aria-label="Steps of the programme" class="steps">
    <RouterLink
      v-for="step in steps"
      :key="step.name"
      :to="{ name: step.name, params: { id: route.params['id'] }, query: route.query }"
      class="step"
      :class="step.state.replace(' ', '-')"
      :title="`${step.title}: ${step.why || step.state}`"
    >
      <span class="state" aria-hidden="true" />{{ step.title }}<span class="visually-hidden">, {{ step.why || step.state }}</span>
    </RouterLink>
  </nav>
  <span v-if="programme.view" class="title" :title="programme.view.bundle.programme.title">{{
    programme.view.bundle.programme.title
  }}</span>
  <Button
    v-if="programme.undoable"
    class="undo"
    text
    size="small"
    icon="pi pi-undo"
    label="Undo"
    aria-keyshortcuts="z"
    :title="`Take back: ${changeText(programme.undoable)} (${programme.undoable.by}, ${dayWords(programme.undoable.at)})`"
    :loading="programme.busy"
    @click="programme.undo()"
  />
</template>

<style scoped>
.steps {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem;
}
.step {
  display: inline-flex;
  align-items: center;
  gap: 0.4rem;
  padding: 0.65rem 0.7rem 0.55rem;
  color: var(--muted);
  text-decoration: none;
  border-bottom: 3px solid transparent;
}
.step.router-link-active {
  color: var(--ink);
  font-weight: 650;
  border-bottom-color: var(--green);
}
.state {
  width: 9px;
  height: 9px;
  border-radius: 50%;
  border: 2px solid var(--neutral);
}
.done .state {
  background: var(--green);
  border-color: var(--green);
}
.under-way .state {
  background: linear-gradient(90deg, var(--green) 50%, transparent 50%);
  border-color: var(--green);
}
.gap .state {
  border-radius: 1px;
  border-color: var(--ink);
  transform: rotate(45deg);
}
.title {
  margin-left: 0.8rem;
  color: var(--muted);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  /* Gives way before anything beside it goes to a second row. */
  flex: 100 1 3rem;
  min-width: 3rem;
}
.undo {
  margin-left: auto;
}
@media (max-width: 900px) {
  .title {
    display: none;
  }
}
</style>
