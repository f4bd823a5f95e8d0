<script setup lang="ts">
import { defineAsyncComponent, onBeforeUnmount, onMounted, ref, watch, type Ref } from 'vue';
import { RouterView } from 'vue-router';
import DropCatcher from '../features/import/DropCatcher.vue';
import { useImport } from '../model/import-store.js';
import { useNewProgramme } from '../model/new-programme-store.js';
import { usePerson } from '../shared/person-store.js';
import { provideShortcuts, useShortcuts } from '../shared/shortcuts.js';
import AppBar from './AppBar.vue';
import { useCommands } from './command-store.js';

/** The shell. A dialog is fetched when it is first asked for: the board is drawn without any. */
const ImportDialog = defineAsyncComponent(() => import('../features/import/ImportDialog.vue'));
const NewProgrammeDialog = defineAsyncComponent(() => import('../features/new-programme/NewProgrammeDialog.vue'));
const PersonDialog = defineAsyncComponent(() => import('./PersonDialog.vue'));
const ShortcutHelp = defineAsyncComponent(() => import('./ShortcutHelp.vue'));
const CommandPalette = defineAsyncComponent(() => import('./CommandPalette.vue'));

const importing = useImport();
const beginning = useNewProgramme();
const person = usePerson();
const shortcuts = useShortcuts();
const commands = useCommands();
const wanted = {
  import: onceTrue(() => importing.open),
  begin: onceTrue(() => beginning.open),
  person: onceTrue(() => person.asking),
  help: onceTrue(() => shortcuts.helpOpen),
  palette: onceTrue(() => commands.open),
};

/** Whether something has been open at any time. */
function onceTrue(isOpen: () => boolean): Ref<boolean> {
  const ever = ref(isOpen());
  watch(isOpen, (open) => (ever.value ||= open));
  return ever;
}

function onKey(event: KeyboardEvent): void {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
    event.preventDefault();
    commands.open = !commands.open;
  } else if (commands.takeAhead(event)) {
    event.preventDefault();
    event.stopImmediatePropagation();
  }
}
// Before anything on the page: what is typed for the palette is no shortcut of the screen's.
onMounted(() => window.addEventListener('keydown', onKey, { capture: true }));
onBeforeUnmount(() => window.removeEventListener('keydown', onKey, { capture: true }));
provideShortcuts([{ keys: ['?'], what: 'show these shortcuts', run: () => (shortcuts.helpOpen = true) }]);
</script>

<template>
  <AppBar />
  <main><RouterView /></main>
  <DropCatcher />
  <ImportDialog v-if="wanted.import.value" />
  <NewProgrammeDialog v-if="wanted.begin.value" />
  <PersonDialog v-if="wanted.person.value" />
  <ShortcutHelp v-if="wanted.help.value" />
  <CommandPalette v-if="wanted.palette.value" />
</template>
