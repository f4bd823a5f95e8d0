<script setup lang="ts">
/** A pull as a post in the tide: a square head where it is measured, a round one otherwise, struck through where it is left out. */
defineProps<{
  post: { setup: string; kind: string; number: number; x: number; headX: number; colour: string };
  groundY: number;
  /** Words for who cannot see it. */
  label: string;
  /** The pull that it stands for; null for one that is still ahead, which cannot be chosen. */
  pull: string | null;
  out: boolean;
  selected: boolean;
  reachable: boolean;
}>();
const emit = defineEmits<{ choose: []; move: [event: KeyboardEvent, by: 1 | -1]; hover: [over: boolean] }>();
</script>

<template>
  <g
    :data-post="pull === null ? undefined : ''"
    :data-pull="pull"
    class="post"
    :class="{ ahead: pull === null, out, selected, counted: post.kind === 'measured' }"
    :role="pull === null ? 'img' : 'button'"
    :tabindex="pull === null ? undefined : reachable ? 0 : -1"
    :aria-pressed="pull === null ? undefined : selected"
    :aria-label="label"
    @click="emit('choose')"
    @keydown.enter.prevent="emit('choose')"
    @keydown.space.prevent="emit('choose')"
    @keydown.right="emit('move', $event, 1)"
    @keydown.left="emit('move', $event, -1)"
    @pointerenter="emit('hover', true)"
    @pointerleave="emit('hover', false)"
  >
    <rect :x="post.headX - 10" y="18" width="20" :height="groundY + 8" class="target" />
    <path :d="`M${post.headX} 40L${post.x} 50V${groundY}`" class="stem" :stroke="post.colour" />
    <rect v-if="post.kind === 'measured'" :x="post.headX - 9" y="20" width="18" height="20" rx="2" class="head" :stroke="post.colour" />
    <circle v-else :cx="post.headX" cy="30" r="9" class="head" :stroke="post.colour" />
    <text :x="post.headX" y="35" text-anchor="middle" class="letter" :fill="post.colour">{{ `${post.setup} ` }}</text>
    <path v-if="out && post.kind === 'measured'" :d="`M${post.headX - 12} 18L${post.headX + 12} 43`" class="strike" />
    <text :x="post.headX" :y="groundY + 20" text-anchor="middle" class="number">{{ post.number }}</text>
  </g>
</template>

<style scoped>
.number {
  fill: var(--muted);
}
.post {
  outline: none;
}
.post[role='button'] {
  cursor: pointer;
}
.target {
  fill: transparent;
}
.stem {
  fill: none;
  stroke-width: 2;
}
.post:not(.counted) .stem {
  stroke-dasharray: 2 3;
  opacity: 0.7;
}
.head {
  fill: var(--ground);
  stroke-width: 2;
}
.letter {
  font-weight: 700;
}
.post.out .head,
.post.out .letter {
  opacity: 0.75;
}
.post.ahead .stem {
  stroke-dasharray: 1 4;
  opacity: 0.6;
}
.post.ahead .head {
  stroke-dasharray: 2 2;
}
.strike {
  stroke: var(--ink);
  stroke-width: 2;
}
.post.selected .head {
  fill: var(--green-soft);
  stroke-width: 3;
}
.post.selected .stem {
  stroke-width: 4;
}
.post.selected .number {
  fill: var(--ink);
  font-weight: 700;
}
.post[role='button']:hover .head,
.post:focus-visible .head {
  stroke-width: 3.5;
}
.post:focus-visible .target {
  stroke: var(--green);
  stroke-width: 2;
}
</style>
