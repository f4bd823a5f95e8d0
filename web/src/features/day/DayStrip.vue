<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue';
import { ambientNow, PLAN_TIMES, pullReasonWord, tideSourceText } from '@gezeit/core';
import { useShow } from '../../shared/units/use-show.js';
import { usePlan } from '../../model/plan-store.js';
import { useProgramme } from '../../model/programme-store.js';
import SetupGround from '../../parts/tide/SetupGround.vue';
import TidePost from '../../parts/tide/TidePost.vue';
import TideFrame from '../../parts/tide/TideFrame.vue';
import { setupBlocks, spreadHeads, tideGeometry } from '../../parts/tide/tide-geometry.js';
import { useDay } from './day-store.js';
import { dayTide, type DayPost } from './day-tide.js';

/** The day's tide as it grows: driven pulls as posts, now as a line, what is ahead dotted. */
const props = defineProps<{ clock: (ms: number) => string; selected: string | null }>();
const emit = defineEmits<{ select: [pull: string] }>();
const day = useDay();
const programme = useProgramme();
const planned = usePlan();
const show = useShow();
const frame = useTemplateRef<InstanceType<typeof TideFrame>>('frame');
const width = ref(1200);

/** The strip moves on every two seconds of the day's clock or so: more often nobody sees. */
const stepMs = computed(() => Math.floor(day.nowMs / 2000) * 2000);
const drawn = computed(() => {
  const { ready } = day.instruction;
  const plan = day.bundle.plan ?? { pulls: [] };
  const waitS = day.state.running ? 60 * (plan.restMin ?? PLAN_TIMES.restMin) : ready?.kind === 'range' ? ready.midS : 0;
  const { restMin, swapMin } = plan;
  return dayTide(
    day.shown,
    programme.view?.tide ?? null,
    day.history,
    ambientNow(day.state, day.cell),
    stepMs.value,
    { restMin, swapMin },
    waitS,
    day.leftOut,
    planned.heat,
  );
});
const geometry = computed(() => {
  const { tide } = drawn.value;
  const now = {
    id: 'now',
    setup: '',
    kind: '',
    status: 'used' as const,
    startMs: stepMs.value,
    endMs: stepMs.value,
    startK: null,
    endK: null,
  };
  const began = { ...now, id: 'began', startMs: day.shown.begunMs ?? stepMs.value, endMs: day.shown.begunMs ?? stepMs.value };
  const inOrder = (pulls: typeof tide.pulls) => pulls.toSorted((a, b) => a.startMs - b.startMs);
  const whole = tideGeometry({ ...tide, pulls: inOrder([began, ...tide.pulls, now]) }, width.value);
  // No head stands on the line of now; where the day began there is nothing to keep free.
  return { ...whole, headX: spreadHeads(inOrder([now, ...tide.pulls]), whole.x, width.value), nowX: whole.x(stepMs.value) };
});
const blocks = computed(() => {
  const pulls = drawn.value.posts.map(({ setup, startMs }) => ({ setup, startMs, endMs: startMs }));
  return setupBlocks(pulls, geometry.value.x, width.value);
});
const posts = computed(() =>
  drawn.value.posts.map((post, index) => ({
    ...post,
    number: index + 1,
    x: geometry.value.x(post.startMs),
    headX: geometry.value.headX.get(post.id) ?? geometry.value.x(post.startMs),
    colour: day.setupById.get(post.setup)?.colour ?? 'currentColor',
    name: day.setupById.get(post.setup)?.setup.name ?? post.setup,
  })),
);
type Post = (typeof posts.value)[number];
function describe({ setup, number, name, kind, pull, ahead, out, aborted, startMs }: Post): string {
  const when = ahead ? `about ${props.clock(startMs)}` : props.clock(startMs);
  const how = aborted ? ', aborted' : out ? `, left out: ${(day.leftOut.get(pull ?? '') ?? []).map(pullReasonWord).join(', ')}` : '';
  return `${setup} ${number}: ${pull ? `pull ${pull} of ` : ''}${name}, ${kind}${how}, ${when}`;
}
const told = computed(() => posts.value.find(({ pull }) => pull !== null && pull === props.selected));
const reachable = computed(() => told.value?.id ?? posts.value.find(({ pull }) => pull !== null)?.id);

function move(event: KeyboardEvent, by: 1 | -1): void {
  event.preventDefault();
  event.stopPropagation();
  const driven = posts.value.filter(({ pull }) => pull !== null);
  const at = driven.findIndex(({ id }) => id === reachable.value);
  const next = driven[Math.max(0, Math.min(driven.length - 1, at + by))];
  if (next) emit('select', next.pull!);
  void frame.value?.focusPost();
}
const choose = ({ pull }: DayPost) => pull && emit('select', pull);

function table() {
  const list = drawn.value.posts;
  return [
    { header: 'pull', values: list.map(({ pull }) => pull ?? '') },
    { header: 'setup', values: list.map(({ setup }) => setup) },
    { header: 'kind', values: list.map(({ kind }) => kind) },
    {
      header: 'state',
      values: list.map(({ ahead, aborted, out }) => (ahead ? 'ahead' : aborted ? 'aborted' : out ? 'left out' : 'driven')),
    },
    { header: 'at', values: list.map(({ startMs }) => new Date(startMs).toISOString()) },
  ];
}
</script>

<template>
  <TideFrame
    ref="frame"
    v-model:width="width"
    name="day-tide"
    title="Tide of the day"
    :subtitle="told ? describe(told) : tideSourceText(drawn.tide.source, show.words)"
    label="Pulls of the day in order of time"
    :stretches="drawn.tide.stretches"
    :geometry="geometry"
    :clock="clock"
    fitted-words="A forecast or a fitted recovery"
    :table="table"
  >
    <SetupGround v-for="(block, index) in blocks" :key="`block-${index}`" :block="block" :ground-y="geometry.groundY" />
    <TidePost
      v-for="post in posts"
      :key="post.id"
      :post="post"
      :ground-y="geometry.groundY"
      :label="describe(post)"
      :pull="post.pull"
      :out="post.out"
      :selected="post.pull !== null && post.pull === selected"
      :reachable="post.id === reachable"
      @choose="choose(post)"
      @move="move"
    />
    <g class="now">
      <line :x1="geometry.nowX" :x2="geometry.nowX" y1="18" :y2="geometry.groundY + 6" />
      <text :x="geometry.nowX + 4" :y="geometry.groundY - 4">now</text>
    </g>
  </TideFrame>
</template>

<style scoped>
.now line {
  stroke: var(--ink);
  stroke-width: 2;
}
.now text {
  fill: var(--ink);
  font-weight: 700;
  /* The forecast passes behind it. */
  paint-order: stroke;
  stroke: var(--ground);
  stroke-width: 4px;
  stroke-linejoin: round;
}
</style>
