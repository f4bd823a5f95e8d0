<script setup lang="ts">
import { RouterView } from 'vue-router';
import ImportDialog from '../features/import/ImportDialog.vue';
import DropCatcher from '../features/import/DropCatcher.vue';
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
  <PersonDialog />
  <ShortcutHelp />
  <CommandPalette />
</template>
