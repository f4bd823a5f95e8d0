<script setup lang="ts">
import type { Comparison } from '@gezeit/contract';
import { computed } from 'vue';

/** What clouds the answer, and which answers it withholds. */
const props = defineProps<{ comparison: Comparison }>();
const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const clouds = computed(() => [...props.comparison.confounds].sort((a, b) => b.withholds.length - a.withholds.length));
</script>

<template>
  <section>
    <h2>What clouds it</h2>
    <ul v-if="clouds.length">
      <li v-for="cloud in clouds" :key="cloud.code + cloud.detail">
        <span class="mark" aria-hidden="true">{{ cloud.withholds.length ? '■' : '!' }}</span>
        <span
          >{{ sentence(cloud.detail) }}.
          <b v-if="cloud.withholds.length" class="withholds">Withholds: {{ cloud.withholds.join(', ') }}.</b></span
        >
      </li>
    </ul>
    <p v-else class="muted">Nothing that was logged or written down.</p>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0.2rem 0 0;
}
li {
  display: grid;
  grid-template-columns: 1.2rem 1fr;
  padding: 0.25rem 0;
  border-bottom: 1px solid var(--line);
}
.withholds {
  color: var(--brick);
}
.mark {
  font-weight: 700;
}
</style>
