<script setup lang="ts">
import { checklists, defaultGates, defaultStops, gateTargetText, minutesText, stopText, shownUnitOf, lengthText } from '@gezeit/core';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../../model/programme-store.js';
import { usePlan } from '../../model/plan-store.js';

/** The run sheet: the plan on paper for the cell, with room to write; on the screen it is not shown. */
const programme = useProgramme();
const plan = usePlan();
const show = useShow();
const gates = computed(() => plan.plan.gates ?? defaultGates(plan.bundle));
const stops = computed(() => plan.plan.stops ?? defaultStops(plan.bundle));
const lists = computed(() => checklists(plan.bundle));
/** Hours and minutes are written as minutes and seconds are. */
const clock = minutesText;
const nameOf = (id: string) => programme.setupById.get(id)?.setup.name ?? id;
const cells = computed(() => plan.bundle.cells ?? (plan.bundle.cell ? [plan.bundle.cell] : []));
</script>

<template>
  <article class="run-sheet" aria-hidden="true">
    <p class="sheet-title">{{ plan.bundle.programme.title }}: run sheet</p>
    <p>
      {{ plan.bundle.programme.question }} {{ plan.bundle.vehicle.name }}, {{ cells.map(({ name }) => name).join(', ') }}.
      {{ plan.plan.pulls.length }} pulls in {{ lengthText(plan.report.lengthMin) }}.
    </p>
    <p>
      <b>Stop at:</b>
      {{ stops.map((stop) => stopText(stop, show.words, '________')).join('; ') }}. The emergency stop is the cell’s own.
    </p>
    <table>
      <thead>
        <tr>
          <th>Pull</th>
          <th>At</th>
          <th>Setup</th>
          <th>Kind</th>
          <th v-for="gate in gates" :key="gate.id">
            {{ gate.label }}<br />{{ gateTargetText(gate, show.words) }} {{ shownUnitOf(gate.unit, false, show.units)
            }}{{ gate.must ? ' !' : '' }}
          </th>
          <th>File, note</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(pull, i) in plan.plan.pulls" :key="i" :class="{ swap: i > 0 && plan.plan.pulls[i - 1]!.setup !== pull.setup }">
          <td>{{ i + 1 }}</td>
          <td>{{ clock(pull.atMin) }}</td>
          <td><b>{{ pull.setup }}</b> {{ nameOf(pull.setup) }}</td>
          <td>{{ pull.kind }}</td>
          <td v-for="gate in gates" :key="gate.id" />
          <td class="wide" />
        </tr>
      </tbody>
    </table>
    <div class="lists">
      <div v-for="list in lists" :key="list.name">
        <h2>{{ list.title }}</h2>
        <p v-for="entry in list.items" :key="entry.id">☐ {{ entry.text }}{{ entry.safety ? ' (safety)' : '' }}</p>
      </div>
    </div>
  </article>
</template>

<style scoped>
.run-sheet {
  display: none;
}
@media print {
  .run-sheet {
    display: block;
    color: #000;
    font-size: 10pt;
  }
  .sheet-title {
    font-weight: 700;
    font-size: 14pt;
  }
  table {
    width: 100%;
    border-collapse: collapse;
    margin: 3mm 0;
  }
  th,
  td {
    border: 0.3mm solid #000;
    padding: 1mm 1.5mm;
    text-align: left;
    font-size: 9.75pt;
  }
  .swap td {
    border-top-width: 1mm;
  }
  .wide {
    width: 24%;
  }
  tr {
    break-inside: avoid;
  }
  .lists {
    columns: 2;
  }
  .lists > div {
    break-inside: avoid;
  }
}
</style>
