<script setup lang="ts">
/** What the files leave open: a question with its answers, and what becomes of them until it is answered. */
defineProps<{ what: string; note?: string }>();
</script>

<template>
  <div class="ask" role="group" :aria-label="what">
    <b>{{ what }}</b>
    <slot />
    <span v-if="note" class="muted">{{ note }}</span>
  </div>
</template>

<style scoped>
.ask {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
  padding: 0.4rem 0.7rem;
  margin-bottom: 0.5rem;
  border-left: 4px solid var(--amber);
  background: var(--surface);
}
</style>
