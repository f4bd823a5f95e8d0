<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import { useProgramme } from '../features/programme/programme-store.js';
import { PROGRAMME_STEPS } from '../features/programme/steps.js';
import { useConnection } from '../shared/api/connection-store.js';
import { usePerson } from '../shared/person-store.js';
import { useShortcuts } from '../shared/shortcuts.js';
import { useTheme } from '../shared/theme-store.js';
import { useCommands } from './command-store.js';
import UnitsMenu from './UnitsMenu.vue';

/** The one bar: where one is, the steps of the programme with their state, units, theme, who is working. */
const route = useRoute();
const programme = useProgramme();
const person = usePerson();
const themes = useTheme();
const shortcuts = useShortcuts();
const connection = useConnection();
const commands = useCommands();

const inProgramme = computed(() => typeof route.params['id'] === 'string');
const steps = computed(() => {
  const view = programme.view;
  return PROGRAMME_STEPS.map(({ name, title, state }) => ({
    name,
    title,
    ...(view ? state(view) : { state: 'nothing' as const, why: '' }),
  }));
});
</script>

<template>
  <header class="app-bar">
    <RouterLink class="wordmark" to="/" aria-label="Gezeit: programmes">
      <svg width="26" height="16" viewBox="0 0 26 16" aria-hidden="true">
        <path d="M0 13L6 4c3 6 4 7 6 7L17 2c2 6 4 8 9 10" fill="none" stroke="currentColor" stroke-width="2.4" />
      </svg>
      Gezeit
    </RouterLink>
    <nav v-if="inProgramme" aria-label="Steps of the programme" class="steps">
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
    <span v-if="inProgramme && programme.view" class="title" :title="programme.view.bundle.programme.title">{{
      programme.view.bundle.programme.title
    }}</span>
    <span v-if="connection.keptText" class="kept" role="status">{{ connection.keptText }}</span>
    <span class="spacer" />
    <Button
      v-if="inProgramme && programme.canUndo"
      text
      size="small"
      icon="pi pi-undo"
      label="Undo"
      aria-keyshortcuts="z"
      :loading="programme.busy"
      @click="programme.undo()"
    />
    <UnitsMenu />
    <Button
      text
      size="small"
      :icon="themes.theme === 'light' ? 'pi pi-moon' : 'pi pi-sun'"
      :aria-label="themes.theme === 'light' ? 'Switch to the dark theme' : 'Switch to the light theme'"
      @click="themes.toggle()"
    />
    <Button
      text
      size="small"
      class="person"
      icon="pi pi-user"
      :label="person.initials || 'Who is working?'"
      :aria-label="person.known ? `Working: ${person.stamp}. Change` : 'Say who is working'"
      @click="person.asking = true"
    />
    <Button
      text
      size="small"
      label="Ctrl K"
      aria-label="Ctrl K: open the command palette"
      aria-keyshortcuts="Control+K"
      @click="commands.open = true"
    />
    <Button text size="small" label="?" aria-label="? Shortcuts of this screen" @click="shortcuts.helpOpen = true" />
  </header>
</template>

<style scoped>
.kept {
  color: var(--brick);
  font-weight: 650;
}
.app-bar {
  display: flex;
  align-items: center;
  gap: 0.35rem;
  min-height: 46px;
  padding: 0 1.4rem;
  border-bottom: 1px solid var(--line);
  max-width: 1920px;
  margin: 0 auto;
  flex-wrap: wrap;
}
.wordmark {
  display: inline-flex;
  align-items: center;
  gap: 0.45rem;
  font-weight: 700;
  font-size: 1.15rem;
  color: var(--ink);
  text-decoration: none;
  margin-right: 1rem;
}
.wordmark svg {
  color: var(--green);
}
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
  flex: 100 1 6rem;
  min-width: 6rem;
}
.spacer {
  flex: 1;
}
@media print {
  .app-bar {
    display: none;
  }
}
@media (max-width: 900px) {
  .title {
    display: none;
  }
}
</style>
