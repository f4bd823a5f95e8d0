<script setup lang="ts">
import { dashArray, type Dash } from '../charts/setup-colours.js';

/** A setup's letter with its colour and line pattern. */
defineProps<{ letter: string; colour: string; dash: Dash; name?: string }>();
</script>

<template>
  <span class="setup-mark" :style="{ color: colour }">
    <svg width="22" height="8" aria-hidden="true">
      <line x1="0" x2="22" y1="4" y2="4" :stroke="colour" stroke-width="3" :stroke-dasharray="dashArray(dash)" />
    </svg>
    <b>{{ letter }}</b>
    <span v-if="name" class="name">{{ name }}</span>
  </span>
</template>

<style scoped>
.setup-mark {
  display: inline-flex;
  align-items: center;
  gap: 0.35rem;
  white-space: nowrap;
  max-width: 100%;
}
/* The first letters of a name tell it; all of it stands where it is typed. */
.name {
  color: var(--ink);
  max-width: 24rem;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
