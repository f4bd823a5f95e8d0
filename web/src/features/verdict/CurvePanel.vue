<script setup lang="ts">
import type { Comparison } from '@gezeit/contract';
import ProgressBar from 'primevue/progressbar';
import { channelWord, claimQuestion, CORRECTION_NAMES, isPowerWithheld } from '@gezeit/core';
import { computed, ref } from 'vue';
import { useNarrow } from '../../shared/charts/use-narrow.js';
import { useTheme } from '../../shared/charts/theme-store.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FailureNote from '../../shared/ui/FailureNote.vue';
import PlotlyChart from '../../shared/charts/PlotlyChart.vue';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../../model/programme-store.js';
import { useSelection } from '../../model/use-selection.js';
import CurveParts from './CurveParts.vue';
import { curveFigure, type CurveInput } from './curve-figure.js';
import { curveTable } from './curve-table.js';

/** Power, torque and difference over engine speed. */
const props = defineProps<{ comparison: Comparison }>();
const programme = useProgramme();
const selection = useSelection();
const show = useShow();
const themes = useTheme();
const narrow = useNarrow();

/** The question whose estimate the curve draws; its band may be its own. */
const leading = computed(() => claimQuestion(programme.view!.bundle));
const difference = computed(
  () =>
    programme.curves?.differences.find(
      ({ reference, candidate }) => reference === props.comparison.reference && candidate === props.comparison.candidate,
    ) ?? null,
);
/** What stands in the lowest panel. */
const besideKey = ref('torque');
const besides = computed<Record<string, string>>(() => ({
  torque: 'torque',
  ...Object.fromEntries((difference.value?.channels ?? []).map(({ key }) => [key, channelWord(key)])),
}));
const beside = computed(() => difference.value?.channels.find(({ key }) => key === besideKey.value) ?? null);
const input = computed<CurveInput | null>(() => {
  const reference = programme.setupById.get(props.comparison.reference);
  const candidate = programme.setupById.get(props.comparison.candidate);
  const { curves } = programme;
  if (!curves || !reference || !candidate) return null;
  return {
    curves,
    reference,
    candidate,
    difference: difference.value,
    beside: beside.value,
    pull: selection.pull.value,
    askedRpm: leading.value?.bandRpm ?? programme.view!.bundle.programme.bandRpm,
    freeRpm: props.comparison.bandUsedRpm,
    smallestPct: leading.value?.smallest ?? programme.view!.bundle.programme.smallestGainPct,
    show: show.value,
    tokens: themes.tokens,
    narrow: narrow.value,
  };
});
const figure = computed(() => (input.value ? curveFigure(input.value) : null));
const table = computed(() => (input.value ? curveTable(input.value) : []));
const powerAt = computed(() => (programme.view!.bundle.cell ?? programme.view!.bundle.cells?.[0])?.powerAt ?? 'wheel');
const corrected = computed(() => programme.view!.bundle.programme.correction);
const subtitle = computed(() => `at the ${powerAt.value}, ${CORRECTION_NAMES[corrected.value] ?? corrected.value}; used pulls, 95 %`);
/** Their place is kept while they are judged: what is below does not jump. */
const HEIGHT_PX = 560;
const TITLE_PX = 40;
</script>

<template>
  <div class="curves" :class="{ earlier: programme.curvesPending && figure }" :aria-busy="programme.curvesPending">
    <FailureNote v-if="programme.curvesFailure" :failure="programme.curvesFailure" />
    <PlotlyChart
      v-else-if="figure"
      name="curves"
      title="Over engine speed"
      :subtitle="programme.curvesPending ? 'being judged anew: these are the curves from before' : subtitle"
      :data="figure.data"
      :layout="figure.layout"
      :height="HEIGHT_PX"
      :table="table"
    >
      <template #tools>
        <ChoiceInput
          class="beside"
          :model-value="beside ? besideKey : 'torque'"
          :choices="besides"
          label="What stands in the lowest panel"
          @update:model-value="besideKey = $event"
        />
      </template>
    </PlotlyChart>
    <div v-else :style="{ minHeight: `${HEIGHT_PX + TITLE_PX}px` }">
      <p class="muted">Judging every engine speed…</p>
      <ProgressBar mode="indeterminate" style="height: 4px" aria-label="Judging every engine speed" />
    </div>
    <CurveParts v-if="difference" :difference="difference" :withheld="isPowerWithheld(comparison)" />
  </div>
</template>

<style scoped>
.curves {
  min-width: 0;
}
.beside {
  font-size: 13px;
}
.earlier :deep(.plot) {
  opacity: 0.45;
}
</style>
