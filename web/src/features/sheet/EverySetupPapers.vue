<script setup lang="ts">
import type { FixedEntry, SheetSource } from '@gezeit/contract';
import SheetPaper from './SheetPaper.vue';

/** The validation sheets of every setup that was compared, one after another. */
defineProps<{ source: SheetSource; candidate: string; fixed: FixedEntry | null }>();
</script>

<template>
  <div class="papers">
    <SheetPaper
      v-for="comparison in source.findings.comparisons"
      :key="comparison.candidate"
      :source="source"
      :candidate="comparison.candidate"
      :fixed="fixed"
    />
  </div>
</template>

<style scoped>
.papers {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 1.2rem;
}
@media print {
  .papers {
    display: block;
  }
  .papers > * + * {
    break-before: page;
  }
}
</style>
