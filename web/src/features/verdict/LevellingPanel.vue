<script setup lang="ts">
import type { Comparison } from '@gezeit/contract';
import { whyHabitsDiffer } from '@gezeit/core';
import { computed } from 'vue';
import PlotlyChart from '../../shared/charts/PlotlyChart.vue';
import { useNarrow } from '../../shared/charts/use-narrow.js';
import { useTheme } from '../../shared/charts/theme-store.js';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../../model/programme-store.js';
import { useSelection } from '../../model/use-selection.js';
import { levellingFigure, levellingTable, type LevellingInput } from './levelling-figure.js';

/** From the pulls to the number: every pull as run and levelled, what was taken out, and what habits would have said. */
const props = defineProps<{ comparison: Comparison }>();
const programme = useProgramme();
const selection = useSelection();
const show = useShow();
const themes = useTheme();
const narrow = useNarrow();

const input = computed<LevellingInput>(() => ({
  comparison: props.comparison,
  order: programme.pullIds,
  kinds: new Map(programme.view!.bundle.pulls.map(({ id, kind }) => [id, kind])),
  setups: programme.setupById,
  selected: selection.pull.value,
  tokens: themes.tokens,
  narrow: narrow.value,
}));
const figure = computed(() => levellingFigure(input.value));
const table = computed(() => levellingTable(input.value));
const why = computed(() => whyHabitsDiffer(props.comparison.contributions, show.value.words));

function select(pull: unknown): void {
  if (typeof pull === 'string') selection.pull.value = selection.pull.value === pull ? null : pull;
}
</script>

<template>
  <div class="levelling">
    <PlotlyChart
      name="levelling"
      title="From the pulls to the number"
      subtitle="in the order of the day; what is pale counts less, or not"
      :data="figure.data"
      :layout="figure.layout"
      :height="330"
      :table="table"
      @click-point="select"
    />
    <p class="small muted">{{ why }}</p>
  </div>
</template>

<style scoped>
p {
  margin: 0 0 0.4rem;
}
</style>
