<script setup lang="ts">
import { RouterView } from 'vue-router';
import ImportDialog from '../features/import/ImportDialog.vue';
import DropCatcher from '../features/import/DropCatcher.vue';
import NewProgrammeDialog from '../features/new-programme/NewProgrammeDialog.vue';
import AppBar from './AppBar.vue';
import CommandPalette from './CommandPalette.vue';
import PersonDialog from './PersonDialog.vue';
import ShortcutHelp from './ShortcutHelp.vue';
</script>

<template>
  <AppBar />
  <main><RouterView /></main>
  <ImportDialog />
  <DropCatcher />
  <NewProgrammeDialog />
  <PersonDialog />
  <ShortcutHelp />
  <CommandPalette />
</template>
