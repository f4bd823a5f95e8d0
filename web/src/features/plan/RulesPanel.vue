<script setup lang="ts">
import ChecklistEditor from './ChecklistEditor.vue';
import GateTable from './GateTable.vue';
import StopTable from './StopTable.vue';

/** Gates before a pull, limits at which everything stops, and the day's checklists. */
</script>

<template>
  <section aria-label="Rules of the day">
    <div class="grid">
      <GateTable />
      <StopTable />
    </div>
    <ChecklistEditor />
    <p class="muted small">
      Local codes and licensed practice come first. Gezeit controls no machine: the emergency stop is the cell’s own.
    </p>
  </section>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(24rem, 100%), 1fr));
  gap: 1rem 2rem;
}
@media (min-width: 1200px) {
  .grid {
    grid-template-columns: minmax(0, 4fr) minmax(0, 3fr);
  }
}
.grid > * {
  min-width: 0;
}
</style>
