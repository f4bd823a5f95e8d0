<script setup lang="ts">
import { seriesAt, stretchOf } from '@gezeit/core';
import { computed } from 'vue';
import { dashArray } from '../../../shared/charts/setup-colours.js';
import { panelsOf, type DeskLine } from './desk-lines.js';
import type { DeskRelation } from './desk-figure.js';
import { plain, withSign } from '../../../shared/units/show.js';

/** Every line by name beside the picture, with what it reads at the cursor; of lines against a channel, what was fitted. */
const props = defineProps<{
  lines: readonly DeskLine[];
  cursor: number | null;
  /** What the cursor's place is called: "1.24 s", "3 450 rpm". */
  place: string | null;
  isDifference: boolean;
  relations: readonly DeskRelation[] | null;
  /** A stretch of time that is looked at closely: mean and drift over it are told. */
  stretch: readonly [number, number] | null;
  /** Unit of the channel that lines are drawn against. */
  againstUnit: string;
}>();

const panels = computed(() => panelsOf(props.lines));

function figure(value: number): string {
  if (!Number.isFinite(value)) return '–';
  const size = Math.abs(value);
  const digits = size >= 1000 ? 0 : size >= 100 ? 1 : size >= 1 ? 2 : 3;
  return props.isDifference ? withSign(value, digits) : plain(value, digits);
}
const reads = (line: DeskLine) => (props.cursor === null ? '–' : figure(seriesAt(line.series, [props.cursor])[0]!));
const significant = (value: number, digits = 3) => Number(value.toPrecision(digits)).toString().replace('-', '−');
/** Mean and drift over the stretch; nothing where too few samples tell anything. */
function steady(line: DeskLine): string | null {
  const found = props.stretch && stretchOf(line.series, ...props.stretch);
  if (!found) return null;
  const { mean, drift } = found;
  return `mean ${significant(mean.value, 4)} (${significant(mean.low, 4)} to ${significant(mean.high, 4)}); drift ${significant(drift.value)} (${significant(drift.low)} to ${significant(drift.high)}) a minute`;
}
const fitOf = (line: DeskLine) => props.relations?.find((entry) => entry.line === line)?.relation.line ?? null;
</script>

<template>
  <aside class="readout figures" aria-label="What every line reads at the cursor">
    <p class="place" role="status">
      {{ relations ? 'A straight line through each' : (place ?? 'Move over the picture, or use its keys') }}
    </p>
    <section v-for="panel in panels" :key="panel.unit">
      <h3>{{ panel.unit }}</h3>
      <p v-for="line in panel.lines" :key="line.key" :data-line="line.key">
        <svg width="22" height="8" aria-hidden="true" :style="{ opacity: line.opacity }">
          <line x1="0" y1="4" x2="22" y2="4" :stroke="line.colour" stroke-width="2" :stroke-dasharray="dashArray(line.dash)" />
        </svg>
        <span class="who"><b>{{ line.pull }}</b> {{ line.setup }} · {{ line.label }}</span>
        <span v-if="!relations" class="value">{{ reads(line) }}</span>
        <span v-else-if="fitOf(line)" class="fit">
          {{ significant(fitOf(line)!.slope) }} ({{ significant(fitOf(line)!.low) }} to {{ significant(fitOf(line)!.high) }})
          {{ panel.unit }} per {{ againstUnit }}; scatter {{ significant(fitOf(line)!.scatter) }} {{ panel.unit }}
        </span>
        <span v-else class="fit muted">no line: too few samples that tell anything</span>
        <span v-if="!relations && steady(line)" class="fit muted">{{ steady(line) }}</span>
      </p>
    </section>
    <p v-if="stretch" class="muted small">Mean and drift over what is seen, as of a steady load, at 95&nbsp;%.</p>
    <p v-if="relations" class="muted small">
      95&nbsp;%, for as many samples as are independent of their neighbours. Two channels that move together need not move each other.
    </p>
  </aside>
</template>

<style scoped>
.readout {
  min-width: 0;
  max-height: 36rem;
  overflow: auto;
}
.place {
  font-weight: 650;
  min-height: 1.4rem;
}
h3 {
  margin: 0.5rem 0 0.1rem;
  font-size: 13px;
  font-weight: 600;
  color: var(--muted);
}
section p {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) auto;
  gap: 0 0.5rem;
  align-items: center;
}
.who {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.value {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.fit {
  grid-column: 2 / -1;
  font-size: 13px;
}
</style>
