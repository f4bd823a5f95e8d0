<script setup lang="ts">
import Button from 'primevue/button';
import { useAccess } from '../shared/access-store.js';

/** Over the shop's network: what this window may do, whether it can be read along, and how one leaves. */
const access = useAccess();
</script>

<template>
  <span v-if="access.isOverNetwork" class="access">
    <b v-if="access.isPlain" class="plain" role="status">Not encrypted: this network can read along</b>
    <span v-if="access.readsAlone">reads alone</span>
    <Button
      text
      size="small"
      icon="pi pi-sign-out"
      :aria-label="`Leave: the key ${access.access?.key ?? ''} is shown again`"
      @click="access.leave()"
    />
  </span>
</template>

<style scoped>
.access {
  display: inline-flex;
  align-items: center;
  gap: 0.5rem;
  color: var(--muted);
}
.plain {
  color: var(--brick);
  font-weight: 650;
}
</style>
