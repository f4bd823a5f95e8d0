<script lang="ts">
import type { BoardEntry as Entry } from '@gezeit/contract';

/** Height of a programme's row: room for its text, or for its answers. */
function rowHeight({ answers }: Entry): number {
  return Math.max(124, 30 * answers.length + 16);
}
export default { rowHeight };
</script>

<script setup lang="ts">
import type { BoardEntry, QuestionKind } from '@gezeit/contract';
import { computed, useTemplateRef } from 'vue';
import { useWidth } from '../../shared/use-width.js';
import { onBoard } from '../../shared/charts/board-scale.js';

const props = defineProps<{ programmes: BoardEntry[] }>();
const box = useTemplateRef<HTMLElement>('box');
const svg = useTemplateRef<SVGSVGElement>('svg');
defineExpose({ svg });

const width = useWidth(box, 240, 420);

/** Kinds of question in which less is better. */
const LESS_IS_BETTER: readonly QuestionKind[] = [
  'cooler-charge',
  'less-restriction',
  'coolant-no-hotter',
  'not-louder',
  'quicker-response',
];

const TOP = 28;
const MARGIN = 12;
const x = (value: number) => MARGIN + onBoard(value).share * (width.value - 2 * MARGIN);
const rows = computed(() => {
  let top = TOP;
  return props.programmes.map((entry) => {
    const height = rowHeight(entry);
    const row = {
      id: entry.id,
      title: entry.title,
      top,
      height,
      bars: entry.answers.flatMap((answer, index) => {
        const { candidate, kind, estimate, low, high, smallest } = answer;
        if (estimate === null || low === null || high === null) return [];
        // Right is the better side: where less is better, the scale turns round.
        const lessIsBetter = kind && (LESS_IS_BETTER.includes(kind) || (kind === 'fades-less' && answer.unit === 'K'));
        const per = lessIsBetter ? -smallest : smallest;
        const [from, to] = [low / per, high / per].sort((a, b) => a - b) as [number, number];
        const tone = answer.bound ? 'withheld' : answer.answer;
        return [{ key: `${candidate} ${kind}`, candidate, tone, value: estimate / per, low: from, high: to, y: top + 23 + 30 * index }];
      }),
      bracket: entry.plannedResolvablePct === null ? null : entry.plannedResolvablePct / entry.smallestGainPct,
    };
    top += height;
    return row;
  });
});
const height = computed(() => TOP + props.programmes.reduce((sum, entry) => sum + rowHeight(entry), 0));
</script>

<template>
  <div ref="box">
    <svg
      ref="svg"
      :width="width"
      :height="height"
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      aria-label="Answers of all programmes on a common scale, in multiples of the smallest difference that matters"
    >
      <rect :x="x(-1)" :y="TOP" :width="x(1) - x(-1)" :height="height - TOP" class="within" />
      <g v-for="mark in [-2, -1, 0, 1, 2, 3, 4]" :key="mark">
        <line
          :x1="x(mark)"
          :x2="x(mark)"
          :y1="TOP"
          :y2="height"
          :class="mark === 0 ? 'zero' : Math.abs(mark) === 1 ? 'smallest' : 'grid'"
        />
        <text :x="x(mark)" y="18" text-anchor="middle">{{ mark > 0 ? `+${mark}` : mark < 0 ? `−${-mark}` : '0' }}</text>
      </g>
      <g v-for="row in rows" :key="row.id">
        <line x1="0" :x2="width" :y1="row.top + 0.5" :y2="row.top + 0.5" class="row" />
        <text class="title" x="2" :y="row.top + 14">{{ row.title }}</text>
        <path
          v-if="row.bracket !== null"
          :d="`M${x(-row.bracket)} ${row.top + 14}v18h${x(row.bracket) - x(-row.bracket)}v-18`"
          class="bracket"
        />
        <g v-for="bar in row.bars" :key="bar.key" :class="['bar', bar.tone]" :transform="`translate(0 ${bar.y})`">
          <line :x1="x(bar.low)" :x2="x(bar.high)" y1="0" y2="0" class="range" />
          <path v-if="onBoard(bar.high).beyond > 0" :d="`M${x(bar.high) - 2} -6l9 6l-9 6z`" class="arrow" />
          <path v-if="onBoard(bar.low).beyond < 0" :d="`M${x(bar.low) + 2} -6l-9 6l9 6z`" class="arrow" />
          <circle v-if="onBoard(bar.value).beyond === 0" :cx="x(bar.value)" cy="0" r="5.5" class="dot" />
          <text
            :x="bar.low > 2 ? x(bar.low) - 8 : onBoard(bar.high).beyond ? x(bar.low) - 8 : x(bar.high) + 9"
            y="5"
            :text-anchor="bar.low > 2 || onBoard(bar.high).beyond ? 'end' : 'start'"
            class="letter"
          >
            {{ bar.candidate }}
          </text>
        </g>
      </g>
    </svg>
  </div>
</template>

<style scoped>
svg {
  display: block;
  font-size: 13px;
  font-variant-numeric: tabular-nums;
}
text {
  fill: var(--muted);
}
/* Whose a row is stands beside it; where it does not, and in a saved file, it is written in it. */
.title {
  display: none;
}
@media (max-width: 900px) {
  .title {
    display: inline;
  }
}
.letter {
  fill: var(--ink);
  font-weight: 700;
}
.within {
  fill: var(--neutral-soft);
  opacity: 0.75;
}
.grid {
  stroke: var(--line);
}
.smallest {
  stroke: var(--neutral);
  stroke-dasharray: 2 3;
}
.zero {
  stroke: var(--ink);
}
.row {
  stroke: var(--line);
}
.bracket {
  fill: none;
  stroke: var(--neutral);
  stroke-width: 1.5;
}
.range {
  stroke: var(--neutral);
  stroke-width: 6;
  stroke-linecap: round;
}
.dot,
.arrow {
  fill: var(--neutral);
}
.gain .range {
  stroke: var(--green);
  stroke-opacity: 0.5;
}
.gain .dot,
.gain .arrow {
  fill: var(--green);
}
.loss .range {
  stroke: var(--brick);
  stroke-opacity: 0.5;
}
.loss .dot,
.loss .arrow {
  fill: var(--brick);
}
.withheld .range,
.not-resolved .range {
  stroke-dasharray: 3 7;
  stroke-width: 4;
}
.withheld .dot,
.not-resolved .dot {
  fill: var(--ground);
  stroke: var(--neutral);
  stroke-width: 2;
}
</style>
