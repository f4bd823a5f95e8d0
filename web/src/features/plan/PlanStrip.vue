<script setup lang="ts">
import { blockOf, forecastTide, movePulls, type HeatForecast } from '@gezeit/core';
import type { Plan } from '@gezeit/contract';
import { computed, ref, useTemplateRef } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../../model/programme-store.js';
import { tideGeometry } from '../../parts/tide/tide-geometry.js';
import SetupGround from '../../parts/tide/SetupGround.vue';
import TideFrame from '../../parts/tide/TideFrame.vue';

/** The planned day on the tide's forecast: posts are pulls, dragged to another place singly or as a block; the keyboard does the same. */
const props = defineProps<{ plan: Plan; heat: HeatForecast; selected: number | null }>();
const emit = defineEmits<{ select: [place: number | null]; change: [what: string, next: (plan: Plan) => Plan] }>();
const programme = useProgramme();
const show = useShow();
const frame = useTemplateRef<InstanceType<typeof TideFrame>>('frame');
const width = ref(1200);

const tide = computed(() => forecastTide(props.plan, props.heat));
const geometry = computed(() => tideGeometry(tide.value, width.value));
const clock = (ms: number) => `${Math.floor(ms / 3_600_000)}:${String(Math.floor(ms / 60_000) % 60).padStart(2, '0')}`;
const posts = computed(() =>
  tide.value.pulls.map((pull, place) => ({
    ...pull,
    place,
    x: geometry.value.x(pull.startMs),
    headX: geometry.value.headX.get(pull.id)!,
    colour: programme.setupById.get(pull.setup)?.colour ?? 'currentColor',
    name: programme.setupById.get(pull.setup)?.setup.name ?? pull.setup,
  })),
);
type Post = (typeof posts.value)[number];
const describe = (post: Post) =>
  `${post.setup} ${post.place + 1}: ${post.place + 1} of ${posts.value.length}, ${post.name}, ${post.kind}, at ${clock(post.startMs)}, starting about ${show.value.temperatureDifference(post.startK, 0)} ${show.value.differenceUnit} above ambient`;
const told = computed(() => (props.selected === null ? null : (posts.value[props.selected] ?? null)));

// Dragging: a post alone, or its block by the ground line.
const drag = ref<{ from: number; to: number; x: number; target: number } | null>(null);
function placeAt(clientX: number): number {
  const x = frame.value!.at(clientX);
  return posts.value.filter((post) => post.headX < x).length;
}
function start(event: PointerEvent, from: number, to: number): void {
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  emit('select', from);
  drag.value = { from, to, x: event.clientX, target: from };
}
function moveDrag(event: PointerEvent): void {
  if (!drag.value || Math.abs(event.clientX - drag.value.x) < 6) return;
  drag.value = { ...drag.value, target: placeAt(event.clientX) };
}
function drop(): void {
  const held = drag.value;
  drag.value = null;
  if (!held || (held.target >= held.from && held.target <= held.to + 1)) return;
  emit('change', held.from === held.to ? 'pull moved' : 'block moved', (plan) => movePulls(plan, held.from, held.to, held.target));
  emit('select', held.target > held.from ? held.target - 1 - (held.to - held.from) : held.target);
}
const dropX = computed(() => {
  if (!drag.value) return null;
  const { target, from, to } = drag.value;
  if (target >= from && target <= to + 1) return null;
  const before = posts.value[target - 1]?.headX;
  const after = posts.value[target]?.headX;
  return before === undefined ? after! - 12 : after === undefined ? before + 12 : (before + after) / 2;
});

const focusSelected = () => frame.value?.focusPost();
function onKey(event: KeyboardEvent, place: number): void {
  const last = posts.value.length - 1;
  const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
  if (step !== 0 && event.altKey) {
    const [from, to] = event.shiftKey ? blockOf(props.plan, place) : [place, place];
    const target = step > 0 ? to + 2 : from - 1;
    if (target < 0 || target > last + 1) return;
    emit('change', from === to ? 'pull moved' : 'block moved', (plan) => movePulls(plan, from, to, target));
    emit('select', place + step);
  } else if (step !== 0) emit('select', Math.max(0, Math.min(last, place + step)));
  else if (event.key === 'Home') emit('select', 0);
  else if (event.key === 'End') emit('select', last);
  else return;
  event.preventDefault();
  event.stopPropagation();
  void focusSelected();
}
defineExpose({ focusSelected });

function table() {
  const { pulls } = tide.value;
  return [
    { header: 'pull', values: pulls.map((_, i) => i + 1) },
    { header: 'setup', values: pulls.map(({ setup }) => setup) },
    { header: 'kind', values: pulls.map(({ kind }) => kind) },
    { header: 'at [min]', values: props.plan.pulls.map(({ atMin }) => atMin) },
    {
      header: `forecast start above ambient [${show.value.differenceUnit}]`,
      values: pulls.map(({ startK }) => (startK === null ? null : Number(show.value.differenceOf(startK).toFixed(2)))),
    },
  ];
}
</script>

<template>
  <TideFrame
    ref="frame"
    v-model:width="width"
    name="plan"
    title="The day as planned"
    :subtitle="told ? describe(told) : `forecast of intake air above ambient, ${show.differenceUnit}; hours since the first pull`"
    label="Planned pulls in order of time"
    :stretches="tide.stretches"
    :geometry="geometry"
    :clock="clock"
    fitted-words="Forecast"
    :table="table"
    :is-empty="posts.length === 0"
  >
    <template #empty>
      <p class="empty">
        No pull is planned yet: take a common practice below and change it, let an order be suggested, or add pulls one by one.
      </p>
    </template>
    <g
      v-for="(block, index) in geometry.blocks"
      :key="`block-${index}`"
      class="block"
      @pointerdown="
        start(
          $event,
          ...blockOf(
            plan,
            posts.findIndex((post) => post.x >= block.fromX - 0.5),
          ),
        )
      "
      @pointermove="moveDrag"
      @pointerup="drop"
      @pointercancel="drag = null"
    >
      <rect :x="block.fromX - 8" :y="geometry.groundY - 2" :width="block.toX - block.fromX + 16" height="44" fill="transparent" />
      <SetupGround :block="block" :ground-y="geometry.groundY" />
    </g>
    <g
      v-for="post in posts"
      :key="post.id"
      class="post"
      :class="{ selected: post.place === selected, conditioning: post.kind !== 'measured' }"
      :data-place="post.place"
      role="button"
      :tabindex="post.place === (selected ?? 0) ? 0 : -1"
      :aria-label="describe(post)"
      :aria-pressed="post.place === selected"
      @pointerdown="start($event, post.place, post.place)"
      @pointermove="moveDrag"
      @pointerup="drop"
      @pointercancel="drag = null"
      @focus="emit('select', post.place)"
      @keydown="onKey($event, post.place)"
    >
      <line
        :x1="post.x"
        :x2="post.x"
        :y1="geometry.y(post.endK ?? 0)"
        :y2="geometry.groundY + 2"
        :stroke="post.colour"
        stroke-width="2.5"
      />
      <line :x1="post.headX" :x2="post.x" y1="41" :y2="geometry.y(post.endK ?? 0)" :stroke="post.colour" />
      <component
        :is="post.kind === 'measured' ? 'rect' : 'circle'"
        v-bind="post.kind === 'measured' ? { x: post.headX - 9, y: 22, width: 18, height: 19, rx: 2 } : { cx: post.headX, cy: 31.5, r: 9 }"
        class="head"
        :stroke="post.colour"
      />
      <text :x="post.headX" y="36" text-anchor="middle" class="letter" :fill="post.colour">{{ `${post.setup} ` }}</text>
      <text :x="post.x" :y="geometry.groundY + 20" text-anchor="middle" class="scale">{{ post.place + 1 }}</text>
    </g>
    <line v-if="dropX !== null" :x1="dropX" :x2="dropX" y1="18" :y2="geometry.groundY + 6" class="drop" />
  </TideFrame>
</template>

<style scoped>
.empty {
  padding: 0.8rem 0 1.2rem;
  color: var(--muted);
}
.scale {
  fill: var(--muted);
  font-size: 13px;
}
.block {
  cursor: grab;
}
.post {
  cursor: grab;
  outline: none;
}
.head {
  fill: var(--surface);
  stroke-width: 2;
}
.post.selected .head,
.post:focus-visible .head {
  fill: var(--green-soft);
  stroke-width: 3.5;
}
.letter {
  font-weight: 700;
  font-size: 13px;
}
.conditioning {
  opacity: 0.75;
}
.drop {
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 3 3;
}
</style>
