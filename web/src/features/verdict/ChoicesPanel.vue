<script setup lang="ts">
import type { Choice, ChoiceChange, Comparison } from '@gezeit/contract';
import { choiceText, READS_AS, signed } from '@gezeit/core';
import Button from 'primevue/button';
import ProgressBar from 'primevue/progressbar';
import { computed, useTemplateRef } from 'vue';
import PlotlyChart from '../../shared/charts/PlotlyChart.vue';
import { useTheme } from '../../shared/charts/theme-store.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../../model/programme-store.js';
import { choicesFigure, choicesTable, type ChoicesInput } from './choices-figure.js';
import { useTakenChoice } from './taken-choice.js';
import { useAllChoicesNear } from './use-all-choices.js';

/** Would another choice have changed it? Every other choice as an interval, and the single ones to be taken. */
const props = defineProps<{ comparison: Comparison; answer: string }>();
const programme = useProgramme();
const taken = useTakenChoice();
const show = useShow();
const themes = useTheme();
useAllChoicesNear(useTemplateRef<HTMLElement>('panel'));

/** All of them: the few that come first only tell what the answer rests on. */
const all = computed(() => (programme.choicesTried === 'all' ? programme.choices : null));
const own = computed(
  () =>
    all.value?.comparisons.find(
      ({ reference, candidate }) => reference === props.comparison.reference && candidate === props.comparison.candidate,
    ) ?? null,
);
const input = computed<ChoicesInput | null>(() =>
  own.value?.base ? { own: own.value, words: show.value.words, tokens: themes.tokens } : null,
);
const figure = computed(() => (input.value ? choicesFigure(input.value) : null));
const table = computed(() => (input.value ? choicesTable(input.value) : []));
const tried = computed(() => own.value?.choices.filter(({ answer }) => answer !== null) ?? []);
const otherwise = computed(() => tried.value.filter(({ answer }) => answer !== own.value!.base!.answer));
const summary = computed(() => {
  if (!own.value?.base) return '';
  const all = tried.value.length;
  const same = all - otherwise.value.length;
  const reads = READS_AS[own.value.base.answer];
  const withheld = own.value.withheld ? ' The answer is withheld whatever is chosen.' : '';
  if (otherwise.value.length === 0) return `All of ${all} other choices read the same: ${reads}.${withheld}`;
  return `${same} of ${all} other choices read the same (${reads}); ${otherwise.value.length} do not.${withheld}`;
});
/** Single choices: those that change the answer first, then by how far they move it. */
const singles = computed(() => {
  const base = own.value?.base;
  if (!base) return [];
  const rows = own.value!.choices.flatMap((choice): (Choice & { change: ChoiceChange; flips: boolean; moves: number })[] => {
    const [change, ...others] = choice.changes;
    if (!change || others.length > 0) return [];
    const moves = choice.estimate ? Math.abs(choice.estimate.pct - base.estimate.pct) : 0;
    return [{ ...choice, change, flips: choice.answer !== null && choice.answer !== base.answer, moves }];
  });
  return rows.sort((a, b) => Number(b.flips) - Number(a.flips) || b.moves - a.moves);
});
const words = (change: ChoiceChange) => choiceText(change, show.value.words);
</script>

<template>
  <section
    ref="panel"
    aria-label="Would another choice have changed it?"
    :aria-busy="programme.allChoicesWanted && !own && !programme.choicesFailure"
  >
    <FailureNote v-if="programme.choicesFailure" :failure="programme.choicesFailure" />
    <template v-else-if="figure">
      <PlotlyChart
        name="choices"
        title="Would another choice have changed it?"
        :data="figure.data"
        :layout="figure.layout"
        :height="190"
        :table="table"
      />
      <p>{{ summary }}</p>
      <details>
        <summary class="small">Each choice by itself</summary>
        <div class="scroll" tabindex="0" role="region" aria-label="Each choice by itself">
          <table class="dense small figures">
            <thead>
              <tr>
                <th>Chosen otherwise</th>
                <th class="number">Difference, %</th>
                <th>Reads as</th>
                <th><span class="visually-hidden">Take it</span></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in singles" :key="JSON.stringify(row.change)" :class="{ flips: row.flips }">
                <td>{{ words(row.change) }}</td>
                <td class="number">
                  <template v-if="row.estimate"
                    >{{ signed(row.estimate.pct) }}
                    <span class="muted">({{ signed(row.estimate.low) }} to {{ signed(row.estimate.high) }})</span></template
                  ><template v-else>–</template>
                </td>
                <td>{{ row.answer ? READS_AS[row.answer] : 'these pulls do not give it' }}</td>
                <td>
                  <Button
                    v-if="row.answer && taken.canTake(row.change)"
                    text
                    size="small"
                    label="Take"
                    :aria-label="`Take: ${words(row.change)}`"
                    @click="taken.take(row.change, words(row.change), comparison, own!.question, answer)"
                  />
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </details>
    </template>
    <template v-else-if="own">
      <h2>Would another choice have changed it?</h2>
      <p class="small muted">There is no estimate of power to hold other choices against.</p>
    </template>
    <template v-else>
      <h2>Would another choice have changed it?</h2>
      <template v-if="programme.allChoicesWanted">
        <p class="small muted">Trying other corrections, bands, beliefs, and each pull left out…</p>
        <ProgressBar mode="indeterminate" style="height: 4px" aria-label="Trying other choices" />
      </template>
      <p v-else class="small muted">Other corrections, bands, beliefs, and each pull left out are tried when this comes into sight.</p>
    </template>
  </section>
</template>

<style scoped>
p {
  margin: 0.2rem 0;
}
summary {
  cursor: pointer;
  color: var(--muted);
}
th {
  text-align: left;
}
.number {
  text-align: right;
  white-space: nowrap;
}
.flips {
  font-weight: 700;
}
</style>
