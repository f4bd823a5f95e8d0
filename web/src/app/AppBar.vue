<script setup lang="ts">
import Button from 'primevue/button';
import { computed, defineAsyncComponent } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import { useConnection } from '../shared/api/connection-store.js';
import { usePerson } from '../shared/person-store.js';
import { useShortcuts } from '../shared/shortcuts.js';
import { useTheme } from '../shared/charts/theme-store.js';
import { useCommands } from './command-store.js';
import AccessNote from './AccessNote.vue';
import UnitsMenu from './UnitsMenu.vue';

const StepNav = defineAsyncComponent(() => import('./StepNav.vue'));

/** The one bar: where one is, the steps of the programme with their state, units, theme, who is working. */
const route = useRoute();
const person = usePerson();
const themes = useTheme();
const shortcuts = useShortcuts();
const connection = useConnection();
const commands = useCommands();

const inProgramme = computed(
  () => typeof route.params['id'] === 'string' && route.matched.some(({ path }) => path.startsWith('/programmes/')),
);
</script>

<template>
  <header class="app-bar">
    <RouterLink class="wordmark" to="/" aria-label="Gezeit: programmes">
      <svg width="26" height="16" viewBox="0 0 26 16" aria-hidden="true">
        <path d="M0 13L6 4c3 6 4 7 6 7L17 2c2 6 4 8 9 10" fill="none" stroke="currentColor" stroke-width="2.4" />
      </svg>
      Gezeit
    </RouterLink>
    <StepNav v-if="inProgramme" />
    <span v-if="connection.keptText" class="kept" role="status">{{ connection.keptText }}</span>
    <span class="spacer" />
    <AccessNote />
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
.spacer {
  flex: 1;
}
@media print {
  .app-bar {
    display: none;
  }
}
</style>
