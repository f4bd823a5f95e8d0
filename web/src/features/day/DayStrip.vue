<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue';
import { ambientNow, PLAN_TIMES } from '@gezeit/core';
import { csvText, saveText, svgText } from '../../shared/save.js';
import ChartFrame from '../../shared/ui/ChartFrame.vue';
import { useShow } from '../../shared/units/use-show.js';
import { usePlan } from '../plan/use-plan.js';
import { useProgramme } from '../programme/programme-store.js';
import SetupGround from '../tide/SetupGround.vue';
import TideWater from '../tide/TideWater.vue';
import { TIDE_SIZE, tideGeometry } from '../tide/tide-geometry.js';
import { useDay } from './day-store.js';
import { dayTide, type DayPost } from './day-tide.js';

/** The day's tide as it grows: driven pulls as posts, now as a line, what is ahead dotted. */
const props = defineProps<{ clock: (ms: number) => string; selected: string | null }>();
const emit = defineEmits<{ select: [pull: string] }>();
const day = useDay();
const programme = useProgramme();
const planned = usePlan();
const show = useShow();
const box = useTemplateRef<HTMLElement>('box');
const svg = useTemplateRef<SVGSVGElement>('svg');
const width = ref(1200);
let observer: ResizeObserver | null = null;
onMounted(() => {
  observer = new ResizeObserver(([entry]) => (width.value = Math.max(320, entry!.contentRect.width)));
  observer.observe(box.value!);
});
onBeforeUnmount(() => observer?.disconnect());

const height = TIDE_SIZE.top + TIDE_SIZE.waterHeight + TIDE_SIZE.bottom;
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
  const framed = [began, ...tide.pulls, now].sort((a, b) => a.startMs - b.startMs);
  const whole = tideGeometry({ ...tide, pulls: framed }, width.value);
  // The ground is laid under pulls alone.
  return {
    ...whole,
    blocks: tideGeometry({ ...tide, pulls: framed.filter(({ setup }) => setup !== '') }, width.value).blocks.map((block) => block),
    nowX: whole.x(stepMs.value),
  };
});
const blocks = computed(() => {
  const { x } = geometry.value;
  const list: { setup: string; fromX: number; toX: number }[] = [];
  for (const { setup, startMs } of drawn.value.posts) {
    const last = list.at(-1);
    if (last?.setup === setup) last.toX = x(startMs) + 10;
    else list.push({ setup, fromX: x(startMs) - 6, toX: x(startMs) + 10 });
  }
  return list;
});
const posts = computed(() =>
  drawn.value.posts.map((post, index) => ({
    ...post,
    number: index + 1,
    x: geometry.value.x(post.startMs),
    headX: geometry.value.headX.get(post.id) ?? geometry.value.x(post.startMs),
    colour: programme.setupById.get(post.setup)?.colour ?? 'currentColor',
    name: programme.setupById.get(post.setup)?.setup.name ?? post.setup,
  })),
);
type Post = (typeof posts.value)[number];
function describe({ setup, number, name, kind, pull, ahead, out, aborted, startMs }: Post): string {
  const when = ahead ? `about ${props.clock(startMs)}` : props.clock(startMs);
  const how = aborted ? ', aborted' : out ? `, left out: ${(day.leftOut.get(pull ?? '') ?? []).join(', ')}` : '';
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
  requestAnimationFrame(() => svg.value?.querySelector<SVGGElement>('[data-post][tabindex="0"]')?.focus());
}
const choose = ({ pull }: DayPost) => pull && emit('select', pull);

function saveCsv(): void {
  const list = drawn.value.posts;
  saveText(
    'day-tide.csv',
    'text/csv',
    csvText([
      { header: 'pull', values: list.map(({ pull }) => pull ?? '') },
      { header: 'setup', values: list.map(({ setup }) => setup) },
      { header: 'kind', values: list.map(({ kind }) => kind) },
      {
        header: 'state',
        values: list.map(({ ahead, aborted, out }) => (ahead ? 'ahead' : aborted ? 'aborted' : out ? 'left out' : 'driven')),
      },
      { header: 'at', values: list.map(({ startMs }) => new Date(startMs).toISOString()) },
    ]),
  );
}
</script>

<template>
  <ChartFrame
    name="day-tide"
    title="Tide of the day"
    :subtitle="told ? describe(told) : drawn.tide.sourceText.replace(', K', `, ${show.differenceUnit}`)"
    @save-svg="svg && saveText('day-tide.svg', 'image/svg+xml', svgText(svg))"
    @save-csv="saveCsv"
  >
    <div ref="box" class="strip">
      <svg
        ref="svg"
        :width="width"
        :height="height"
        :viewBox="`0 0 ${width} ${height}`"
        role="group"
        aria-label="Pulls of the day in order of time"
      >
        <TideWater
          :stretches="drawn.tide.stretches"
          :geometry="geometry"
          :width="width"
          :clock="clock"
          fitted-words="A forecast or a fitted recovery"
        />
        <SetupGround v-for="(block, index) in blocks" :key="`block-${index}`" :block="block" :ground-y="geometry.groundY" />
        <g
          v-for="post in posts"
          :key="post.id"
          :data-post="post.pull ? '' : undefined"
          :data-pull="post.pull"
          class="post"
          :class="{
            ahead: post.ahead,
            out: post.out,
            counted: post.kind === 'measured',
            selected: post.pull !== null && post.pull === selected,
          }"
          :role="post.pull ? 'button' : 'img'"
          :tabindex="post.pull ? (post.id === reachable ? 0 : -1) : undefined"
          :aria-pressed="post.pull ? post.pull === selected : undefined"
          :aria-label="describe(post)"
          @click="choose(post)"
          @keydown.enter.prevent="choose(post)"
          @keydown.space.prevent="choose(post)"
          @keydown.right="post.pull && move($event, 1)"
          @keydown.left="post.pull && move($event, -1)"
        >
          <rect :x="post.headX - 10" y="18" width="20" :height="geometry.groundY + 8" class="target" />
          <path :d="`M${post.headX} 40L${post.x} 50V${geometry.groundY}`" class="stem" :stroke="post.colour" />
          <rect
            v-if="post.kind === 'measured'"
            :x="post.headX - 9"
            y="20"
            width="18"
            height="20"
            rx="2"
            class="head"
            :stroke="post.colour"
          />
          <circle v-else :cx="post.headX" cy="30" r="9" class="head" :stroke="post.colour" />
          <text :x="post.headX" y="35" text-anchor="middle" class="letter" :fill="post.colour">{{ `${post.setup} ` }}</text>
          <path v-if="post.out" :d="`M${post.headX - 12} 18L${post.headX + 12} 43`" class="strike" />
          <text :x="post.headX" :y="geometry.groundY + 20" text-anchor="middle" class="number">{{ post.number }}</text>
        </g>
        <g class="now">
          <line :x1="geometry.nowX" :x2="geometry.nowX" y1="18" :y2="geometry.groundY + 6" />
          <text :x="geometry.nowX + 4" :y="geometry.groundY - 4">now</text>
        </g>
      </svg>
    </div>
  </ChartFrame>
</template>

<style scoped>
.strip {
  width: 100%;
  overflow: hidden;
}
svg {
  display: block;
  font-size: 13px;
  font-variant-numeric: tabular-nums;
}
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
.post[role='button']:hover .head,
.post:focus-visible .head {
  stroke-width: 3.5;
}
.post:focus-visible .target {
  stroke: var(--green);
  stroke-width: 2;
}
.now line {
  stroke: var(--ink);
  stroke-width: 2;
}
.now text {
  fill: var(--ink);
  font-weight: 700;
}
</style>
