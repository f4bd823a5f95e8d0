<script setup lang="ts">
import type { Tide } from '@gezeit/contract';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import { linePath, TIDE_SIZE, type TideGeometry } from './tide-geometry.js';

/** Scale, hours and water line of a tide strip: what a driven day and a planned one have in common. */
const props = defineProps<{
  stretches: Tide['stretches'];
  geometry: TideGeometry;
  width: number;
  /** Time of day, or since the first pull. */
  clock: (ms: number) => string;
  /** What a dashed stretch is. */
  fittedWords: string;
}>();
const show = useShow();
const water = computed(() =>
  props.stretches.map(({ kind, atMs, valueK }) => {
    const { x, y, groundY } = props.geometry;
    const xs = atMs.map(x);
    const line = linePath(xs, valueK.map(y));
    return { kind, line, area: `${line}L${xs.at(-1)!.toFixed(1)} ${groundY}L${xs[0]!.toFixed(1)} ${groundY}Z` };
  }),
);
</script>

<template>
  <g class="scale">
    <g v-for="level in geometry.levels" :key="level">
      <line :x1="TIDE_SIZE.left" :x2="width - TIDE_SIZE.right" :y1="geometry.y(level)" :y2="geometry.y(level)" class="level" />
      <text :x="TIDE_SIZE.left - 8" :y="geometry.y(level) + 4" text-anchor="end">{{ Math.round(show.differenceOf(level)) }}</text>
    </g>
    <text v-for="hour in geometry.hours" :key="hour.ms" :x="hour.x" y="13" text-anchor="middle">{{ clock(hour.ms) }}</text>
  </g>
  <g v-for="(stretch, index) in water" :key="index">
    <path :d="stretch.area" class="water" :class="stretch.kind" />
    <path :d="stretch.line" class="line" :class="stretch.kind">
      <title>{{ stretch.kind === 'logged' ? 'Logged' : fittedWords }}</title>
    </path>
  </g>
</template>

<style scoped>
.scale text {
  fill: var(--muted);
  font-size: 13px;
}
.level {
  stroke: var(--line);
}
.water {
  fill: var(--green);
  opacity: 0.16;
}
.water.fitted {
  opacity: 0.07;
}
.line {
  fill: none;
  stroke: var(--green);
  stroke-width: 2;
}
.line.fitted {
  stroke-dasharray: 4 4;
  stroke-width: 1.4;
  opacity: 0.75;
}
</style>
