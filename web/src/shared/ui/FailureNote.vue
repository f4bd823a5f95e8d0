<script setup lang="ts">
import type { ApiFailure } from '../api/client.js';

/** What went wrong, where, and what to do. */
defineProps<{ failure: ApiFailure }>();
</script>

<template>
  <div class="failure" role="alert">
    <strong>{{ failure.message }}</strong>
    <span v-if="failure.place" class="place">{{ failure.place }}</span>
    <span>{{ failure.nextStep }}</span>
    <slot />
  </div>
</template>

<style scoped>
.failure {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 0.8rem;
  align-items: baseline;
  padding: 0.6rem 0.8rem;
  border-left: 4px solid var(--brick);
  background: var(--surface);
}
.place {
  color: var(--muted);
}
</style>
