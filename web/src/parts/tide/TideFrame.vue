<script setup lang="ts">
import type { Tide } from '@gezeit/contract';
import { computed, nextTick, useTemplateRef, watchEffect } from 'vue';
import ChartFrame from '../../shared/charts/ChartFrame.vue';
import { saveTable, saveText, svgText } from '../../shared/save.js';
import { useWidth } from '../../shared/use-width.js';
import { leastTideWidth, TIDE_SIZE, type TideGeometry } from './tide-geometry.js';
import TideWater from './TideWater.vue';

/** The frame of every tide: its chart with time and water, and what stands in it put in by the strip that uses it. */
const props = defineProps<{
  /** Identifies the chart and names its files. */
  name: string;
  title: string;
  subtitle: string;
  /** What stands in it, for those who do not see it. */
  label: string;
  stretches: Tide['stretches'];
  geometry: TideGeometry;
  clock: (ms: number) => string;
  /** What a dashed line is. */
  fittedWords: string;
  table: () => Parameters<typeof saveTable>[1];
  /** Nothing stands in it yet: the words for that are in the slot `empty`. */
  isEmpty?: boolean;
}>();
/** As it is laid out, px. */
const laidOut = defineModel<number>('width', { required: true });
const box = useTemplateRef<HTMLElement>('box');
const svg = useTemplateRef<SVGSVGElement>('svg');
const visible = useWidth(box);
const across = computed(() => Math.max(visible.value, leastTideWidth(props.geometry.headX.size)));
watchEffect(() => (laidOut.value = across.value));
const height = TIDE_SIZE.top + TIDE_SIZE.waterHeight + TIDE_SIZE.bottom;

const focusReached = () => svg.value?.querySelector<SVGGElement>('g[role=button][tabindex="0"]')?.focus();
/** Gives the focus to the post that the keyboard reaches: at once, and again where the selection went by the address, which takes a moment. */
async function focusPost(): Promise<void> {
  await nextTick();
  focusReached();
  requestAnimationFrame(focusReached);
}
/** Where a pointer is, px from the strip's left. */
const at = (clientX: number): number => clientX - svg.value!.getBoundingClientRect().left;
defineExpose({ focusPost, at });
</script>

<template>
  <ChartFrame
    :name="name"
    :title="title"
    :subtitle="subtitle"
    @save-svg="svg && saveText(`${name}.svg`, 'image/svg+xml', svgText(svg))"
    @save-csv="saveTable(`${name}.csv`, props.table())"
  >
    <div ref="box" class="strip">
      <slot v-if="isEmpty" name="empty" />
      <svg
        v-show="!isEmpty"
        ref="svg"
        :width="across"
        :height="height"
        :viewBox="`0 0 ${across} ${height}`"
        role="group"
        :aria-label="label"
      >
        <TideWater v-if="!isEmpty" :stretches="stretches" :geometry="geometry" :width="across" :clock="clock" :fitted-words="fittedWords" />
        <slot />
      </svg>
    </div>
  </ChartFrame>
</template>

<style scoped>
.strip {
  width: 100%;
  overflow: auto hidden;
}
svg {
  display: block;
  font-size: 13px;
  font-variant-numeric: tabular-nums;
}
</style>
