<script setup lang="ts">
import type { FixedEntry, SheetSource } from '@gezeit/contract';
import { sideBySideOf, withWords } from '@gezeit/core';
import { computed } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import { useShow } from '../../shared/units/use-show.js';

/** Every setup beside the others by all that was asked or measured, and below it what the bench found. */
const props = defineProps<{ source: SheetSource; candidate: string; fixed: FixedEntry | null }>();
const programme = useProgramme();
const show = useShow();
// Answers that were fixed before the bench was fixed with them have no evidence of their own: then the paper says that it is today's.
const isOfThen = computed(() => props.source.evidence !== undefined);
const page = computed(() =>
  sideBySideOf(
    props.source.bundle,
    withWords(props.source.findings, show.value.words),
    props.source.evidence ?? programme.view!.evidence,
    show.value.words,
  ),
);
const title = computed(() => props.source.bundle.programme.title);
const car = computed(() => props.source.bundle.vehicle.name);
const nameOf = (setup: string) => props.source.bundle.setups.find(({ id }) => id === setup)?.name ?? '';
</script>

<template>
  <article class="paper figures" aria-label="Setups beside each other">
    <p class="kind">Setups beside each other · {{ car }}</p>
    <h1>{{ title }}</h1>
    <p class="open">
      <b>{{
        fixed
          ? fixed.changed.length > 0
            ? 'Out of date.'
            : `Answers fixed ${fixed.at.slice(0, 10)}.`
          : 'Not fixed: figures as they are now.'
      }}</b>
    </p>
    <section>
      <h2>Driven</h2>
      <table>
        <thead>
          <tr>
            <th scope="col">By</th>
            <th v-for="setup in page.setups" :key="setup.id" scope="col">{{ setup.id }} {{ setup.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in page.rows" :key="row.label">
            <th scope="row">{{ row.label }}<span v-if="row.note" class="note">{{ row.note }}</span></th>
            <td v-for="(cell, i) in row.cells" :key="i">
              <b>{{ cell.text }}</b><span v-if="cell.range" class="note">{{ cell.range }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <p class="note">Ranges are 95 %. A figure that is withheld is not shown: why stands on the validation sheet of that setup.</p>
    </section>
    <section v-if="page.bench.length > 0">
      <h2>Found on the bench</h2>
      <p class="note">
        Measured or computed without the car, or before its day{{
          isOfThen ? '' : '; as it stands now: it was not fixed with the answers'
        }}.
      </p>
      <ul>
        <li v-for="(entry, i) in page.bench" :key="i">
          <b
            >{{ entry.title }}<template v-if="entry.setup">, {{ entry.setup }} {{ nameOf(entry.setup) }}</template
            ><template v-if="entry.section">, {{ entry.section }}</template></b
          >: {{ entry.sentence }}
          <span class="note">{{ entry.by }}<template v-if="entry.doubts.length > 0">; {{ entry.doubts.join('; ') }}</template></span>
        </li>
      </ul>
    </section>
  </article>
</template>

<style scoped src="./paper.css"></style>
<style scoped src="./table-paper.css"></style>
<style scoped>
ul {
  margin: 0.3rem 0 0;
  padding-left: 1.1rem;
}
</style>
