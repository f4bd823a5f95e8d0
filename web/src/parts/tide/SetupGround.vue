<script setup lang="ts">
import { computed } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import type { TideGeometry } from './tide-geometry.js';

/** The ground under the pulls of one fitted setup, in its colour, with its name where there is room. */
const props = defineProps<{ block: TideGeometry['blocks'][number]; groundY: number }>();

/** A letter of the name at its size, px, a little more than it takes on average. */
const LETTER_PX = 7.3;
const programme = useProgramme();
const worn = computed(() => programme.setupById.get(props.block.setup));
const name = computed(() => {
  const full = `${props.block.setup} ${worn.value?.setup.name ?? ''}`;
  return full.length * LETTER_PX <= props.block.roomPx ? full : props.block.setup;
});
</script>

<template>
  <line :x1="block.fromX" :x2="block.toX" :y1="groundY + 2" :y2="groundY + 2" class="ground" :stroke="worn?.colour" />
  <text :x="block.fromX" :y="groundY + 38" class="name" :fill="worn?.colour">{{ name }}</text>
</template>

<style scoped>
.ground {
  stroke-width: 5;
}
.name {
  font-weight: 600;
  font-size: 13px;
}
</style>
