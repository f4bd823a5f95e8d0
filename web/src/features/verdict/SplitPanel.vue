<script setup lang="ts">
import type { Comparison } from '@gezeit/contract';
import { CAUSE_WORDS, channelWord } from '@gezeit/core';
import { computed, useTemplateRef } from 'vue';
import ChartFrame from '../../shared/charts/ChartFrame.vue';
import IntervalScale from '../../shared/charts/IntervalScale.vue';
import { splitFigures, splitRows } from '../../parts/split-rows.js';
import Term from '../../shared/ui/Term.vue';
import { saveTable, saveText, svgText } from '../../shared/save.js';
import { useWidth } from '../../shared/use-width.js';

/** The split: what each step took out of the difference, from uncorrected to what is left at the same air. */
const props = defineProps<{ comparison: Comparison; smallest: number }>();
const box = useTemplateRef<HTMLElement>('box');
const width = useWidth(box, 270, 620);

const rows = computed(() => splitRows(props.comparison));
const missing = computed(() => props.comparison.contributions.filter(({ pct }) => pct === null));
const restsOn = computed(() =>
  props.comparison.contributions
    .filter(({ pct, restsOn: channels }) => pct !== null && channels.length > 0)
    .map(({ cause, restsOn: channels }) => `${CAUSE_WORDS[cause].label}: ${channels.map(channelWord).join(', ')}`),
);
const terms = computed(() => [...new Set(props.comparison.contributions.map(({ cause }) => cause))]);
/** What a cooler does at equal boost stands, although the verdict is withheld for boost. */
const atEqualBoost = computed(() => {
  const isWithheld = props.comparison.confounds.some(({ code, withholds }) => code.startsWith('boost') && withholds.includes('power'));
  const row = props.comparison.contributions.find(({ cause }) => cause === 'chargeTemperature');
  return isWithheld && row && row.pct !== null ? splitFigures({ pct: row.pct, low: row.low!, high: row.high! }) : null;
});
const table = computed(() => [
  { header: 'row', values: props.comparison.contributions.map(({ cause }) => CAUSE_WORDS[cause].label) },
  { header: 'difference [%]', values: props.comparison.contributions.map(({ pct }) => pct) },
  { header: 'low [%]', values: props.comparison.contributions.map(({ low }) => low) },
  { header: 'high [%]', values: props.comparison.contributions.map(({ high }) => high) },
  { header: 'reason', values: props.comparison.contributions.map(({ reason }) => reason) },
]);

function saveSvg(): void {
  const svg = box.value?.querySelector('svg');
  if (svg) saveText('split.svg', 'image/svg+xml', svgText(svg));
}
</script>

<template>
  <ChartFrame name="split" title="What the difference is made of" @save-svg="saveSvg" @save-csv="saveTable('split.csv', table)">
    <div ref="box"><IntervalScale :rows="rows" :smallest="smallest" unit="%" :width="width" :label-width="142" :text-width="150" /></div>
    <p v-if="atEqualBoost" class="small">
      <b>At equal boost</b> the cooler or hotter charge by itself is worth {{ atEqualBoost }}: that stands, although power is withheld.
    </p>
    <details class="small">
      <summary>What each row is, and its channels</summary>
      <p class="muted">Each step’s rows add up to the number above it minus the number below it.</p>
      <p class="muted">
        <template v-for="(cause, i) in terms" :key="cause"
          ><Term :what="CAUSE_WORDS[cause].what">{{ CAUSE_WORDS[cause].label }}</Term>{{ i < terms.length - 1 ? ', ' : '.' }}
        </template>
      </p>
      <p class="muted">Channels: {{ restsOn.join('; ') }}.</p>
    </details>
    <ul v-if="missing.length" class="small muted">
      <li v-for="row in missing" :key="row.cause">No row for {{ CAUSE_WORDS[row.cause].label }}: {{ row.reason }}</li>
    </ul>
  </ChartFrame>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0.2rem 0 0;
}
p {
  margin: 0.2rem 0;
}
summary {
  cursor: pointer;
  color: var(--muted);
}
</style>
