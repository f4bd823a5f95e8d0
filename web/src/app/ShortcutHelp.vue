<script setup lang="ts">
import Checkbox from 'primevue/checkbox';
import Dialog from 'primevue/dialog';
import { useShortcuts } from '../shared/shortcuts.js';

/** The shortcuts of the screen that is open. */
const shortcuts = useShortcuts();
</script>

<template>
  <Dialog v-model:visible="shortcuts.helpOpen" modal dismissable-mask header="Shortcuts of this screen" :style="{ width: '28rem' }">
    <table class="dense">
      <tbody>
        <tr>
          <td><kbd>Ctrl K</kbd></td>
          <td>command palette</td>
        </tr>
        <tr v-for="shortcut in shortcuts.effective" :key="shortcut.keys.join()">
          <td>
            <kbd v-for="key in shortcut.keys" :key="key">{{ key }}</kbd>
          </td>
          <td>{{ shortcut.what }}</td>
        </tr>
      </tbody>
    </table>
    <p class="setting">
      <Checkbox :model-value="shortcuts.enabled" binary input-id="single-keys" @update:model-value="shortcuts.setEnabled($event)" />
      <label for="single-keys">Single-key shortcuts are on</label>
    </p>
  </Dialog>
</template>

<style scoped>
kbd {
  display: inline-block;
  min-width: 1.6rem;
  margin-right: 0.3rem;
  padding: 0 0.35rem;
  border: 1px solid var(--line);
  border-radius: 3px;
  text-align: center;
  font: inherit;
}
.setting {
  display: flex;
  align-items: center;
  gap: 0.5rem;
  margin-top: 0.9rem;
}
</style>
