<script setup lang="ts">
import { useId } from 'vue';

/** A word with a one-line explanation on hover and focus. */
defineProps<{ what: string }>();
const id = useId();
</script>

<template>
  <span class="term" tabindex="0" :aria-describedby="id"><slot /><span :id="id" class="explanation" role="tooltip">{{ what }}</span></span>
</template>

<style scoped>
.term {
  position: relative;
  border-bottom: 1px dotted var(--muted);
  cursor: help;
}
.explanation {
  position: absolute;
  z-index: 30;
  left: 0;
  top: calc(100% + 4px);
  width: max-content;
  max-width: 22rem;
  padding: 0.35rem 0.55rem;
  background: var(--ink);
  color: var(--ground);
  font-size: 13px;
  font-weight: 400;
  line-height: 1.35;
  border-radius: 3px;
  display: none;
  white-space: normal;
  text-align: left;
}
.term:hover .explanation,
.term:focus .explanation {
  display: block;
}
</style>
