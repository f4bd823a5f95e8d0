<script setup lang="ts">
import type { Tide } from '@gezeit/contract';
import { tideSourceText } from '@gezeit/core';
import { computed } from 'vue';
import { linePath, tideGeometry } from '../../parts/tide/tide-geometry.js';
import { useShow } from '../../shared/units/use-show.js';

/** The day as it ran, for paper: posts with their letters, the heat at their feet, times above. */
const props = defineProps<{ tide: Tide; timeZone: string | null }>();
const show = useShow();

const WIDTH = 720;
const HEIGHT = 150;
const HEAD_Y = 28;
const HEAD = 16;
/** Where a post leaves its own moment for its head, px. */
const BEND_Y = 56;
const geometry = computed(() => tideGeometry(props.tide, WIDTH));
const clock = computed(
  () => new Intl.DateTimeFormat('en-GB', { hour: 'numeric', minute: '2-digit', hourCycle: 'h23', timeZone: props.timeZone ?? undefined }),
);
const posts = computed(() =>
  props.tide.pulls.map((pull, i) => ({
    ...pull,
    number: i + 1,
    x: geometry.value.x(pull.startMs),
    headX: geometry.value.headX.get(pull.id)!,
  })),
);
const path = ({ atMs, valueK }: Tide['stretches'][number]) => linePath(atMs.map(geometry.value.x), valueK.map(geometry.value.y));
const source = computed(() => tideSourceText(props.tide.source, show.value.words));
</script>

<template>
  <figure>
    <figcaption>The day: {{ source }}. Boxes: measured pulls, circles: pulls that conditioned, crossed: left out.</figcaption>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="`Order of the pulls: ${posts.map(({ setup }) => setup).join(' ')}`">
      <text v-for="hour in geometry.hours" :key="hour.ms" :x="hour.x" y="10" text-anchor="middle">{{ clock.format(hour.ms) }}</text>
      <line x1="0" :x2="WIDTH" :y1="geometry.groundY" :y2="geometry.groundY" class="ground" />
      <path v-for="(stretch, i) in tide.stretches" :key="i" :d="path(stretch)" class="water" :class="stretch.kind" />
      <g v-for="post in posts" :key="post.id">
        <path :d="linePath([post.x, post.x, post.headX], [geometry.groundY, BEND_Y, HEAD_Y + HEAD])" class="post" />
        <circle v-if="post.kind !== 'measured'" :cx="post.headX" :cy="HEAD_Y + HEAD / 2" :r="HEAD / 2" class="head" />
        <rect v-else :x="post.headX - HEAD / 2" :y="HEAD_Y" :width="HEAD" :height="HEAD" class="head" />
        <line
          v-if="post.kind === 'measured' && post.status === 'excluded'"
          :x1="post.headX - HEAD / 2"
          :x2="post.headX + HEAD / 2"
          :y1="HEAD_Y + HEAD"
          :y2="HEAD_Y"
          class="post"
        />
        <text :x="post.headX" :y="HEAD_Y + HEAD - 3.5" text-anchor="middle" class="letter">{{ post.setup }}</text>
      </g>
    </svg>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
figcaption {
  font-size: 13px;
}
svg {
  width: 100%;
  height: auto;
  display: block;
  font-size: 13px;
}
text {
  fill: #222;
}
.letter {
  font-weight: 700;
}
.ground,
.post {
  fill: none;
  stroke: #444;
}
.head {
  fill: #fff;
  stroke: #111;
}
.water {
  fill: none;
  stroke: #111;
  stroke-width: 1.3;
}
.water.fitted {
  stroke: #666;
  stroke-dasharray: 3 3;
}
</style>
