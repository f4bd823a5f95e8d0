<script setup lang="ts">
import type { LogView, PullDetail, PullFinding } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed, onBeforeUnmount, ref, shallowRef, useId, useTemplateRef, watch } from 'vue';
import { ApiFailure } from '../../shared/api/client.js';
import { fetchTraces, type TraceSamples } from '../../shared/api/traces.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { useWidth } from '../../shared/use-width.js';
import { useProgramme } from '../../model/programme-store.js';
import { overlayPath, rangeWithin, tellingColumns } from './align-overlay.js';

/** One log laid over the pull's first one, and moved by hand: dragged, or nudged by the arrow keys. */
const props = defineProps<{ lead: LogView; log: LogView; finding: PullFinding; detail: PullDetail }>();
const emit = defineEmits<{ done: [] }>();
const programme = useProgramme();

const AROUND_S = 4;
/** So far a log can be dragged in one go before its samples run out, s. */
const REACH_S = 12;
const POINTS = 900;
const HEIGHT = 190;
const [LEFT, RIGHT, TOP, BOTTOM] = [8, 8, 18, 164];
const NUDGE_S = 0.01;
const FAR_S = 0.1;

const entry = computed(() => props.detail.alignments.find(({ file }) => file === props.log.file)!);
const offsetS = ref(entry.value.offsetS);
watch(entry, ({ offsetS: next }) => (offsetS.value = next));
const movedS = computed(() => offsetS.value - entry.value.offsetS);
const span = computed(() => [props.finding.startS! - AROUND_S, props.finding.endS! + AROUND_S] as const);

const drawable = ({ columns }: LogView) => columns.filter(({ position }) => position > 0);
const first = tellingColumns(drawable(props.lead), drawable(props.log));
const leadColumn = ref(first.lead?.id ?? null);
const ownColumn = ref(first.own?.id ?? null);
const choicesOf = (log: LogView) => Object.fromEntries(drawable(log).map(({ id, name }) => [id, name]));

const leadTrace = shallowRef<TraceSamples | null>(null);
const ownTrace = shallowRef<TraceSamples | null>(null);
const failure = shallowRef<ApiFailure | null>(null);
const stop = new AbortController();
onBeforeUnmount(() => stop.abort());

async function load(log: LogView, column: string | null, [fromS, toS]: readonly [number, number]): Promise<TraceSamples | null> {
  if (column === null) return null;
  try {
    return (await fetchTraces(log.id, [column], POINTS, stop.signal, [fromS, toS])).get(column) ?? null;
  } catch (error) {
    if (!stop.signal.aborted) failure.value = ApiFailure.of(error, 'The traces could not be read.', 'Reload the page.');
    return null;
  }
}
watch([leadColumn, span], async ([column]) => (leadTrace.value = await load(props.lead, column, span.value)), { immediate: true });
watch(
  [ownColumn, entry],
  async ([column]) => {
    const [fromS, toS] = span.value;
    const at = entry.value.offsetS;
    ownTrace.value = await load(props.log, column, [fromS + at - REACH_S, toS + at + REACH_S]);
  },
  { immediate: true },
);

const clip = useId();
const frame = useTemplateRef<HTMLElement>('frame');
const width = useWidth(frame);
const perSecond = computed(() => (width.value - LEFT - RIGHT) / (span.value[1] - span.value[0]));
const x = (timeS: number) => LEFT + (timeS - span.value[0]) * perSecond.value;
// Both fill the height over the sweep; the same quantity in both logs has one scale, as it is one thing.
const quantityOf = (log: LogView, id: string | null) => log.columns.find((column) => column.id === id)?.quantity ?? null;
const sweep = computed(() => [props.finding.startS!, props.finding.endS!] as const);
const leadRange = computed(() => leadTrace.value && rangeWithin(leadTrace.value, sweep.value));
const ownRange = computed(() => {
  const quantity = quantityOf(props.log, ownColumn.value);
  if (quantity !== null && quantity === quantityOf(props.lead, leadColumn.value)) return leadRange.value;
  const at = entry.value.offsetS;
  return ownTrace.value && rangeWithin(ownTrace.value, [sweep.value[0] + at, sweep.value[1] + at]);
});
const leadPath = computed(() => leadTrace.value && leadRange.value && overlayPath(leadTrace.value, x, [TOP, BOTTOM], leadRange.value));
const ownPath = computed(() => {
  const at = offsetS.value;
  return ownTrace.value && ownRange.value && overlayPath(ownTrace.value, (timeS) => x(timeS - at), [TOP, BOTTOM], ownRange.value);
});
const ticks = computed(() => {
  const [fromS, toS] = span.value;
  const step = toS - fromS > 16 ? 5 : 2;
  const start = Math.ceil((fromS - props.finding.startS!) / step) * step;
  return Array.from({ length: Math.floor((toS - props.finding.startS! - start) / step) + 1 }, (_, i) => start + i * step);
});

let grabbed: { atX: number; offsetS: number } | null = null;
function grab(event: PointerEvent): void {
  grabbed = { atX: event.clientX, offsetS: offsetS.value };
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}
function drag(event: PointerEvent): void {
  if (grabbed) offsetS.value = grabbed.offsetS - (event.clientX - grabbed.atX) / perSecond.value;
}
const letGo = () => (grabbed = null);
function nudge(event: KeyboardEvent): void {
  const way = event.key === 'ArrowLeft' ? 1 : event.key === 'ArrowRight' ? -1 : 0;
  if (way === 0) return;
  event.preventDefault();
  event.stopPropagation();
  offsetS.value += way * (event.shiftKey ? FAR_S : NUDGE_S);
}

const milliseconds = computed(() => Math.round(-1000 * movedS.value));
const moveWords = computed(() =>
  milliseconds.value === 0 ? 'not moved' : `moved ${Math.abs(milliseconds.value)} ms ${milliseconds.value > 0 ? 'later' : 'earlier'}`,
);
async function keep(next: number | null): Promise<void> {
  if (await programme.align(props.detail.id, { file: props.log.file, offsetS: next })) emit('done');
}
</script>

<template>
  <section class="align" aria-label="Alignment by hand">
    <div class="heads">
      <ChoiceInput v-model="leadColumn" :choices="choicesOf(lead)" label="Channel of the first log" />
      <span class="own"><ChoiceInput v-model="ownColumn" :choices="choicesOf(log)" label="Channel of this log" /></span>
      <span class="small muted">drag the green line, or arrow keys: {{ 1000 * NUDGE_S }} ms, with Shift {{ 1000 * FAR_S }} ms</span>
    </div>
    <FailureNote v-if="failure" :failure="failure" />
    <div ref="frame">
      <svg
        :width="width"
        :height="HEIGHT"
        tabindex="0"
        role="slider"
        aria-label="Shift of this log"
        :aria-valuenow="milliseconds"
        :aria-valuetext="moveWords"
        @keydown="nudge"
        @pointerdown="grab"
        @pointermove="drag"
        @pointerup="letGo"
        @pointercancel="letGo"
      >
        <rect class="window" :x="x(finding.startS!)" :y="TOP" :width="x(finding.endS!) - x(finding.startS!)" :height="BOTTOM - TOP" />
        <g v-for="tick in ticks" :key="tick">
          <line class="grid" :x1="x(finding.startS! + tick)" :x2="x(finding.startS! + tick)" :y1="TOP" :y2="BOTTOM" />
          <text class="tick" :x="x(finding.startS! + tick)" :y="HEIGHT - 8">{{ tick }} s</text>
        </g>
        <clipPath :id="clip"><rect :x="LEFT" :y="TOP - 12" :width="width - LEFT - RIGHT" :height="BOTTOM - TOP + 18" /></clipPath>
        <g :clip-path="`url(#${clip})`">
          <path v-if="leadPath" class="lead" :d="leadPath" />
          <path v-if="ownPath" class="moved" :d="ownPath" />
        </g>
      </svg>
    </div>
    <div class="heads">
      <span role="status" class="figures">{{ moveWords }}</span>
      <Button size="small" label="Keep this alignment" :disabled="milliseconds === 0" @click="keep(offsetS)" />
      <Button v-if="entry.how === 'hand'" size="small" outlined label="As the logs show" @click="keep(null)" />
      <Button size="small" text label="Close" @click="emit('done')" />
    </div>
  </section>
</template>

<style scoped>
.align {
  margin: 0.5rem 0;
  padding: 0.5rem 0;
  border-top: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
}
.heads {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
}
.own {
  border-bottom: 3px solid var(--green);
}
svg {
  cursor: ew-resize;
  touch-action: pan-y;
}
.window {
  fill: var(--green-soft);
  opacity: 0.5;
}
.grid {
  stroke: var(--line);
}
.tick {
  fill: var(--muted);
  font-size: 13px;
  text-anchor: middle;
}
path {
  fill: none;
  stroke-width: 1.8;
}
.lead {
  stroke: var(--ink);
  stroke-dasharray: 5 3;
}
.moved {
  stroke: var(--green);
}
</style>
