<script setup lang="ts">
import type { Figure } from '@gezeit/contract';
import type { RowReading } from '@gezeit/core';
import { computed } from 'vue';
import { useUnits } from '../../shared/units/units-store.js';
import { figureText } from '../../shared/units/figure-text.js';

/** Figures with unit and interval; several things side by side in one table. */
const props = defineProps<{ figures: readonly Figure[]; rows: readonly RowReading[] }>();
const units = useUnits();
const shown = computed(() => props.figures.map((figure) => ({ figure, ...figureText(figure, units.chosen) })));
const columns = computed(
  () =>
    props.rows[0]?.figures.map(({ name, label, unit, difference }) => ({
      name,
      label,
      unit: figureText({ name, label, unit, value: 0, difference }, units.chosen).unit,
    })) ?? [],
);
const used = computed(() => columns.value.filter((_, i) => props.rows.some(({ figures }) => figures[i]!.value !== null)));
const cell = (row: RowReading, name: string) =>
  figureText(
    row.figures.find((figure) => figure.name === name)!,
    units.chosen,
  );
</script>

<template>
  <table v-if="shown.length" class="figures dense">
    <tbody>
      <tr v-for="{ figure, value, range, unit } in shown" :key="figure.name">
        <th scope="row">{{ figure.label }}</th>
        <td class="number"><b>{{ value }}</b> {{ unit }}</td>
        <td class="muted">{{ range ? `(${range})` : '' }}</td>
      </tr>
    </tbody>
  </table>
  <div v-if="rows.length" class="scroll">
    <table class="figures dense">
      <thead>
        <tr>
          <th />
          <th v-for="column in used" :key="column.name" class="number head">
            {{ column.label }}<template v-if="column.unit">, {{ column.unit }}</template>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.row">
          <th scope="row">{{ row.row }}</th>
          <td v-for="column in used" :key="column.name" class="number">
            <b>{{ cell(row, column.name).value }}</b>{{ ' '
            }}<span v-if="cell(row, column.name).range" class="range">({{ cell(row, column.name).range }})</span>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.figures th {
  font-weight: 400;
  font-size: inherit;
  white-space: normal;
}
.figures th.head {
  font-size: 13px;
  white-space: normal;
  min-width: 5rem;
  vertical-align: bottom;
}
.range {
  font-size: 13px;
  color: var(--muted);
}
.scroll {
  overflow-x: auto;
  margin: 0.3rem 0;
}
</style>
