<script setup lang="ts">
import type { Comparison, Correction, EstimatePct } from '@gezeit/contract';
import { ESTIMATE_WORDS, isPowerWithheld, sameAirShort } from '@gezeit/core';
import { computed, useTemplateRef } from 'vue';
import { useWidth } from '../../shared/use-width.js';
import { saveTable, saveText, svgText } from '../../shared/save.js';
import ChartFrame from '../../shared/charts/ChartFrame.vue';
import IntervalScale from '../../shared/charts/IntervalScale.vue';
import Term from '../../shared/ui/Term.vue';
import { withSign } from '../../shared/units/show.js';

/** The estimates side by side, each explained in plain words. */
const props = defineProps<{ comparison: Comparison; smallest: number; correction: Correction }>();
const box = useTemplateRef<HTMLElement>('box');
const width = useWidth(box, 270, 460);

const text = (estimate: EstimatePct | null) =>
  estimate ? `${withSign(estimate.pct, 1)} % (${withSign(estimate.low, 1)} to ${withSign(estimate.high, 1)})` : 'not given';
const names = ['asRun', 'levelled', 'ownStart', 'sameAir'] as const;
const rows = computed(() =>
  names.map((name) => {
    const estimate = props.comparison[name];
    // What is withheld leads nowhere: its figure stands without the green.
    const leads = name === props.comparison.leading && !isPowerWithheld(props.comparison);
    return {
      label: name === 'sameAir' ? sameAirShort(props.comparison) : ESTIMATE_WORDS[name].short,
      value: estimate?.pct ?? null,
      low: estimate?.low ?? null,
      high: estimate?.high ?? null,
      strong: estimate !== null && leads,
      text: text(estimate),
    };
  }),
);
const beside = computed(() => {
  const { uncorrected, boostedEstimate } = props.comparison;
  const { wholeBand } = props.comparison;
  return [
    wholeBand ? `the whole asked band as driven ${text(wholeBand)}` : null,
    props.correction !== 'NONE' && uncorrected ? `uncorrected, as run ${text(uncorrected)}` : null,
    boostedEstimate && props.correction !== 'NONE' ? `estimate for boosted engines, as run ${text(boostedEstimate)}` : null,
  ].filter((entry) => entry !== null);
});
const table = computed(() => [
  { header: 'estimate', values: rows.value.map(({ label }) => label) },
  { header: 'difference [%]', values: rows.value.map(({ value }) => value) },
  { header: 'low [%]', values: rows.value.map(({ low }) => low) },
  { header: 'high [%]', values: rows.value.map(({ high }) => high) },
]);

function saveSvg(): void {
  const svg = box.value?.querySelector('svg');
  if (svg) saveText('estimates.svg', 'image/svg+xml', svgText(svg));
}
</script>

<template>
  <ChartFrame name="estimates" title="The same pulls, read four ways" @save-svg="saveSvg" @save-csv="saveTable('estimates.csv', table)">
    <div ref="box"><IntervalScale :rows="rows" :smallest="smallest" unit="%" :width="width" :label-width="178" :text-width="158" /></div>
    <p class="small muted words">
      What is
      <template v-for="(name, index) in names" :key="name"
        ><Term :what="ESTIMATE_WORDS[name].what">{{ ESTIMATE_WORDS[name].label }}</Term
        >{{ index < names.length - 1 ? ', ' : '?' }}</template
      >
      <template v-if="comparison.ownStartReason"> No own start: {{ comparison.ownStartReason }}</template>
      <template v-if="comparison.sameAirReason"> No same air: {{ comparison.sameAirReason }}</template>
    </p>
    <p v-if="beside.length" class="small muted">Beside it: {{ beside.join('; ') }}.</p>
  </ChartFrame>
</template>

<style scoped>
.words :deep(.explanation) {
  max-width: 19rem;
}
</style>
