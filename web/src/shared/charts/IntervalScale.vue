<script setup lang="ts">
import { computed } from 'vue';

/** Intervals one under the other on a common scale, with zero and the smallest difference that matters. */
export interface IntervalRow {
  label: string;
  value: number | null;
  low: number | null;
  high: number | null;
  strong?: boolean;
  text: string;
}
const props = defineProps<{ rows: IntervalRow[]; smallest: number; unit: string; width: number; labelWidth: number; textWidth: number }>();

/** Under this a scale says nothing, px: the words of a row stand above it then. */
const LEAST_SCALE = 130;
const EDGE = 8;
const stacked = computed(() => props.width - props.labelWidth - props.textWidth < LEAST_SCALE);
const scale = computed(() =>
  stacked.value
    ? { from: EDGE, to: props.width - EDGE, row: 46, wordsY: -6, barY: 12 }
    : { from: props.labelWidth, to: props.width - props.textWidth, row: 26, wordsY: 5, barY: 0 },
);
const range = computed(() => {
  const ends = props.rows.flatMap(({ low, high, value }) => [low, high, value]).filter((end) => end !== null);
  const low = Math.min(-1.3 * props.smallest, ...ends);
  const high = Math.max(1.3 * props.smallest, ...ends);
  const room = 0.05 * (high - low);
  return [low - room, high + room] as const;
});
const x = (value: number) => {
  const { from, to } = scale.value;
  return from + ((value - range.value[0]) / (range.value[1] - range.value[0])) * (to - from);
};
const groundY = computed(() => props.rows.length * scale.value.row);
const height = computed(() => groundY.value + 24);
const CLOSEST_MARKS = 34;
const marks = computed(() => {
  if (x(props.smallest) - x(0) < CLOSEST_MARKS) return [{ at: 0, text: `0 ± ${props.smallest} ${props.unit}` }];
  return [
    { at: -props.smallest, text: `−${props.smallest}` },
    { at: 0, text: '0' },
    { at: props.smallest, text: `+${props.smallest} ${props.unit}` },
  ];
});
</script>

<template>
  <svg
    :width="width"
    :height="height"
    :viewBox="`0 0 ${width} ${height}`"
    class="interval-scale"
    :class="{ stacked }"
    role="img"
    :aria-label="rows.map(({ label, text }) => `${label}: ${text}`).join('; ')"
  >
    <rect :x="x(-smallest)" y="0" :width="x(smallest) - x(-smallest)" :height="groundY" class="within" />
    <line :x1="x(0)" :x2="x(0)" y1="0" :y2="groundY" class="zero" />
    <g
      v-for="(row, index) in rows"
      :key="row.label"
      :transform="`translate(0 ${(index + 0.5) * scale.row})`"
      :class="{ strong: row.strong }"
    >
      <text :x="stacked ? 0 : labelWidth - 10" :y="scale.wordsY" :text-anchor="stacked ? 'start' : 'end'">{{ row.label }}</text>
      <line v-if="row.low !== null && row.high !== null" :x1="x(row.low)" :x2="x(row.high)" :y1="scale.barY" :y2="scale.barY" class="bar" />
      <circle v-if="row.value !== null" :cx="x(row.value)" :cy="scale.barY" :r="row.strong ? 5.5 : 4" class="dot" />
      <text :x="width" :y="scale.wordsY" text-anchor="end" class="figure">{{ row.text }}</text>
    </g>
    <text v-for="mark in marks" :key="mark.text" :x="x(mark.at)" :y="groundY + 17" text-anchor="middle" class="mark">
      {{ mark.text }}
    </text>
  </svg>
</template>

<style scoped>
.interval-scale {
  display: block;
  font-size: 13.5px;
  font-variant-numeric: tabular-nums;
}
text {
  fill: var(--ink);
}
/* The line of nought runs behind the words. */
.stacked g text {
  paint-order: stroke;
  stroke: var(--ground);
  stroke-width: 4px;
}
.mark {
  fill: var(--muted);
  font-size: 13px;
}
.within {
  fill: var(--neutral-soft);
}
.zero {
  stroke: var(--ink);
}
.bar {
  stroke: var(--neutral);
  stroke-width: 4;
  stroke-linecap: round;
}
.dot {
  fill: var(--neutral);
}
.strong .bar {
  stroke: var(--green);
  stroke-width: 7;
  stroke-opacity: 0.55;
}
.strong .dot {
  fill: var(--green);
}
.strong text {
  font-weight: 700;
}
</style>
