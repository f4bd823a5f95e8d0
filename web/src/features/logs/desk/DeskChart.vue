<script setup lang="ts">
import type { PlotlyHTMLElement } from 'plotly.js';
import { onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue';
import { plotlyLayout } from '../../../shared/charts/plotly-theme.js';
import { useTheme } from '../../../shared/charts/theme-store.js';
import { saveText } from '../../../shared/save.js';
import type { DeskFigure } from './desk-figure.js';

/**
 * Traces that one looks closer at: the wheel, a stretch drawn with the mouse or the keys choose what is seen; one cursor runs through all
 * panels. What is seen is told, and drawn as it is handed down again.
 */
const props = defineProps<{ figure: DeskFigure; label: string; cursor: number | null; pending: boolean }>();
const emit = defineEmits<{ span: [span: [number, number] | null]; cursor: [at: number | null] }>();

/** How much closer one step brings, and how far a step of the keys goes, as a share of what is seen. Assumptions. */
const CLOSER = 0.8;
const STEP = 0.01;
const PAN = 0.2;
const LEAST_DRAG_PX = 5;

const box = useTemplateRef<HTMLElement>('box');
const themes = useTheme();
const cursorPx = ref<number | null>(null);
const drag = ref<{ fromPx: number; toPx: number; pans: boolean } | null>(null);
let plotly: typeof import('plotly.js') | null = null;
let observer: ResizeObserver | null = null;
let frame: number | null = null;
let gone = false;
/** What was asked to be seen and is not drawn yet: the next step goes on from there. */
let ahead: [number, number] | null = null;

/** Where the axis lies in the picture, px, and what it reaches over. */
interface Axis {
  left: number;
  width: number;
  from: number;
  to: number;
}

/** Margins give way to labels: only the drawing itself knows where its axis lies. */
function axis(): Axis | null {
  const laidOut = (
    box.value as unknown as { _fullLayout?: { xaxis?: { _offset: number; _length: number; range: [number, number] } } } | null
  )?._fullLayout?.xaxis;
  if (!laidOut) return null;
  const [from, to] = ahead ?? laidOut.range;
  return { left: laidOut._offset, width: laidOut._length, from: Number(from), to: Number(to) };
}
const valueAt = (px: number, { left, width, from, to }: Axis) => from + ((px - left) / width) * (to - from);

async function draw(): Promise<void> {
  plotly ??= (await import('plotly.js-cartesian-dist-min')).default as unknown as typeof import('plotly.js');
  if (gone || !box.value) return;
  const { data, layout, height } = props.figure;
  await plotly.react(box.value, data, plotlyLayout(themes.tokens, layout, height), { displayModeBar: false, staticPlot: true });
  ahead = null;
  placeCursor();
}
function drawSoon(): void {
  frame ??= requestAnimationFrame(() => {
    frame = null;
    void draw();
  });
}
function placeCursor(): void {
  const where = axis();
  const at = props.cursor;
  const px = where && at !== null ? where.left + ((at - where.from) / (where.to - where.from)) * where.width : null;
  cursorPx.value = px !== null && where && px >= where.left - 0.5 && px <= where.left + where.width + 0.5 ? px : null;
}
watch([() => props.figure, () => themes.tokens], drawSoon);
watch(() => props.cursor, placeCursor);
onMounted(() => {
  drawSoon();
  observer = new ResizeObserver(() => {
    if (plotly && box.value) plotly.Plots.resize(box.value);
    placeCursor();
  });
  observer.observe(box.value!);
});
onBeforeUnmount(() => {
  gone = true;
  observer?.disconnect();
  if (plotly && box.value) plotly.purge(box.value as PlotlyHTMLElement);
});

const pxOf = (event: MouseEvent) => event.clientX - box.value!.getBoundingClientRect().left;

function look(span: [number, number] | null): void {
  ahead = span;
  emit('span', span);
}
/** Closer (below one) or farther, about a place that stays where it is. */
function zoom(by: number, about: number): void {
  const where = axis();
  if (where) look([about - (about - where.from) * by, about + (where.to - about) * by]);
}
function pan(share: number): void {
  const where = axis();
  if (!where) return;
  const by = share * (where.to - where.from);
  look([where.from + by, where.to + by]);
}
function wheel(event: WheelEvent): void {
  const where = axis();
  if (!where || event.shiftKey) return;
  event.preventDefault();
  zoom(event.deltaY < 0 ? CLOSER : 1 / CLOSER, valueAt(pxOf(event), where));
}
function down(event: PointerEvent): void {
  if (event.button !== 0 || !axis()) return;
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  drag.value = { fromPx: pxOf(event), toPx: pxOf(event), pans: event.shiftKey };
}
function move(event: PointerEvent): void {
  const where = axis();
  if (!where) return;
  const px = pxOf(event);
  emit('cursor', Math.min(where.to, Math.max(where.from, valueAt(px, where))));
  if (!drag.value) return;
  if (drag.value.pans) pan((drag.value.toPx - px) / where.width);
  drag.value = { ...drag.value, toPx: px };
}
function up(): void {
  const where = axis();
  const drawn = drag.value;
  drag.value = null;
  if (!where || !drawn || drawn.pans || Math.abs(drawn.toPx - drawn.fromPx) < LEAST_DRAG_PX) return;
  const [from, to] = [drawn.fromPx, drawn.toPx]
    .map((px) => Math.min(where.to, Math.max(where.from, valueAt(px, where))))
    .sort((a, b) => a - b);
  look([from!, to!]);
}
function key(event: KeyboardEvent): void {
  const where = axis();
  if (!where || event.ctrlKey || event.metaKey || event.altKey) return;
  const at = props.cursor ?? (where.from + where.to) / 2;
  const step = STEP * (where.to - where.from);
  const go = (by: number) =>
    event.shiftKey ? pan(Math.sign(by) * PAN) : emit('cursor', Math.min(where.to, Math.max(where.from, at + by)));
  const does: Record<string, () => void> = {
    '+': () => zoom(CLOSER, at),
    '=': () => zoom(CLOSER, at),
    '-': () => zoom(1 / CLOSER, at),
    '0': () => look(null),
    Home: () => emit('cursor', where.from),
    End: () => emit('cursor', where.to),
    ArrowLeft: () => go(-step),
    ArrowRight: () => go(step),
  };
  const action = does[event.key];
  if (!action) return;
  event.preventDefault();
  event.stopPropagation();
  action();
}

/** The picture as it stands. */
async function saveSvg(fileName: string): Promise<void> {
  if (!plotly || !box.value) return;
  const url = await plotly.toImage(box.value as PlotlyHTMLElement, {
    format: 'svg',
    width: box.value.clientWidth,
    height: props.figure.height,
  });
  saveText(fileName, 'image/svg+xml', decodeURIComponent(url.slice(url.indexOf(',') + 1)));
}
defineExpose({ saveSvg });
</script>

<template>
  <div
    class="desk-chart"
    tabindex="0"
    role="application"
    :aria-label="`${label}. Keys: plus and minus look closer and farther, arrows move the cursor, Shift and arrows move along, 0 shows all.`"
    :aria-busy="pending"
    @wheel="wheel"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="up"
    @pointercancel="drag = null"
    @dblclick="look(null)"
    @keydown="key"
  >
    <div ref="box" class="plot" :style="{ height: `${figure.height}px` }" />
    <div v-if="cursorPx !== null" class="cursor" :style="{ left: `${cursorPx}px` }" />
    <div
      v-if="drag && !drag.pans"
      class="stretch"
      :style="{ left: `${Math.min(drag.fromPx, drag.toPx)}px`, width: `${Math.abs(drag.toPx - drag.fromPx)}px` }"
    />
  </div>
</template>

<style scoped>
.desk-chart {
  position: relative;
  cursor: crosshair;
  touch-action: pan-y;
  user-select: none;
  min-width: 0;
}
.plot {
  width: 100%;
}
.cursor,
.stretch {
  position: absolute;
  top: 0;
  bottom: 0;
  pointer-events: none;
}
.cursor {
  border-left: 1px solid var(--ink);
}
.stretch {
  background: var(--green-soft);
  opacity: 0.6;
}
</style>
