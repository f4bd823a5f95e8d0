<script setup lang="ts">
import { columnText, planMatrix } from '@gezeit/core';
import { computed } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import { usePlan } from '../../model/plan-store.js';

/** Parts against the states of bonnet, fan, learning and tune: what is planned, and what a comparison would miss. */
const programme = useProgramme();
const plan = usePlan();
const matrix = computed(() => planMatrix(plan.bundle, plan.plan));
const colour = (id: string | null) => (id === null ? undefined : programme.setupById.get(id)?.colour);
</script>

<template>
  <section v-if="matrix.columns.length > 1" aria-label="Combinations">
    <h2>Combinations</h2>
    <div class="scroll">
      <table class="dense">
        <thead>
          <tr>
            <th>Parts</th>
            <th v-for="column in matrix.columns" :key="column.key" class="state">{{ columnText(column, matrix.keys) }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in matrix.rows" :key="row.name">
            <td>{{ row.name }}<span v-if="row.reference" class="muted">, reference</span></td>
            <td v-for="(cell, i) in row.cells" :key="i" :class="{ missing: cell.missing }">
              <b v-if="cell.setup" :style="{ color: colour(cell.setup) }">{{ cell.setup }}</b>
              {{ cell.measured > 0 ? `${cell.measured} pulls` : cell.missing ? 'missing' : '–' }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.state {
  white-space: normal;
}
.missing {
  color: var(--brick);
  font-weight: 650;
  outline: 2px solid var(--brick);
  outline-offset: -2px;
  padding-left: 0.4rem;
}
</style>
