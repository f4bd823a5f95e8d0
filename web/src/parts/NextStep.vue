<script setup lang="ts">
import { RouterLink, useRoute } from 'vue-router';
import type { StepName } from '../model/step-names.js';

/** What stands in the place of a step that has nothing to show yet: what comes next, with its link, and nothing else. */
defineProps<{ title: string; text: string; step: StepName; link: string }>();
const route = useRoute();
</script>

<template>
  <section class="next">
    <h2>{{ title }}</h2>
    <p>{{ text }}</p>
    <RouterLink class="go" :to="{ name: step, params: route.params }">{{ link }}</RouterLink>
  </section>
</template>

<style scoped>
.next {
  display: grid;
  gap: 0.6rem;
  justify-items: start;
  max-width: 40rem;
  padding: 2.4rem 0;
}
h2 {
  font-size: 1.6rem;
}
.go {
  font-size: 1.1rem;
  font-weight: 600;
}
</style>
