<script setup lang="ts">
import type { Evidence, FixedEntry, SheetSource } from '@gezeit/contract';
import { computed } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import { figureText } from '../../shared/units/figure-text.js';
import { useUnits } from '../../shared/units/units-store.js';

/** What the bench found, each result with the figures, assumptions and doubts that it rests on: nothing of it was driven. */
const props = defineProps<{ source: SheetSource; candidate: string; fixed: FixedEntry | null }>();
const programme = useProgramme();
const units = useUnits();
// Answers that were fixed before the bench was fixed with them have no evidence of their own: then the paper says that it is today's.
const isOfThen = computed(() => props.source.evidence !== undefined);
const evidence = computed(() => props.source.evidence ?? programme.view!.evidence);
const nameOf = (setup: string) => props.source.bundle.setups.find(({ id }) => id === setup)?.name ?? '';
const of = ({ title, setup, section }: Evidence) =>
  [title, setup ? `${setup} ${nameOf(setup)}`.trim() : null, section].filter(Boolean).join(', ');
const figures = (entry: Evidence) => entry.figures.map((figure) => ({ label: figure.label, ...figureText(figure, units.chosen) }));
</script>

<template>
  <article class="paper figures" aria-label="Found on the bench">
    <p class="kind">Found on the bench · {{ source.bundle.vehicle.name }}</p>
    <h1>{{ source.bundle.programme.title }}</h1>
    <p class="open">
      <b>{{ fixed && isOfThen ? `Fixed with the answers ${fixed.at.slice(0, 10)}.` : 'Not fixed: as it stands now.' }}</b>
    </p>
    <p class="note">Measured or computed without the car, or before its day. Ranges are 95 %, where there is one.</p>
    <p v-if="evidence.length === 0">Nothing was kept on the bench.</p>
    <section v-for="entry in evidence" :key="entry.id">
      <h2>{{ of(entry) }}</h2>
      <p>{{ entry.sentence }}</p>
      <table v-if="entry.figures.length > 0">
        <thead class="visually-hidden">
          <tr>
            <th scope="col">Figure</th>
            <th scope="col">Value</th>
            <th scope="col">Range</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="figure in figures(entry)" :key="figure.label">
            <th scope="row">{{ figure.label }}</th>
            <td class="value"><b>{{ figure.value }}</b> {{ figure.unit }}</td>
            <td>{{ figure.range ?? '' }}</td>
          </tr>
        </tbody>
      </table>
      <p v-for="text in entry.warnings" :key="text"><b>Mind:</b> {{ text }}</p>
      <p v-if="entry.assumptions.length > 0" class="note">
        Assumed: {{ entry.assumptions.map(({ name, value }) => `${name} ${value}`).join('; ') }}.
      </p>
      <p v-if="entry.note">{{ entry.note }}</p>
      <p class="note">
        {{ entry.by }}, {{ entry.at.slice(0, 10)
        }}<template v-if="entry.formulas.length > 0">; formulas {{ entry.formulas.join(', ') }}</template>
      </p>
    </section>
  </article>
</template>

<style scoped src="./paper.css"></style>
<style scoped src="./table-paper.css"></style>
<style scoped>
th,
td {
  padding-block: 0.1rem;
}
.value {
  white-space: nowrap;
}
p {
  margin: 0.15rem 0;
}
</style>
