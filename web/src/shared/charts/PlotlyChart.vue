<script setup lang="ts">
import { dequal } from 'dequal';
import type { Config, Data, Layout, PlotlyHTMLElement } from 'plotly.js';
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useTheme } from './theme-store.js';
import { saveTable, saveText } from '../save.js';
import { plotlyLayout } from './plotly-theme.js';
import ChartFrame from './ChartFrame.vue';

/** A Plotly chart in Gezeit's one chart theme. */
const props = defineProps<{
  name: string;
  title: string;
  subtitle?: string;
  data: Data[];
  layout: Partial<Layout>;
  height: number;
  /** The figures behind the chart, for CSV. */
  table: { header: string; values: readonly (number | string | null)[] }[];
}>();
const emit = defineEmits<{ clickPoint: [customdata: unknown] }>();

const box = ref<HTMLElement | null>(null);
const themes = useTheme();
let plotly: typeof import('plotly.js') | null = null;
let observer: ResizeObserver | null = null;
let gone = false;
/** Drawing takes longer than everything else on a page: words are shown first, and what changes meanwhile is drawn once. */
let drawing: number | null = null;
/** What stands there now. */
let drawn: unknown[] = [];

const config: Partial<Config> = { displayModeBar: false, responsive: false };

async function draw(): Promise<void> {
  plotly ??= (await import('plotly.js-cartesian-dist-min')).default as unknown as typeof import('plotly.js');
  if (gone || !box.value) return;
  // Much that is computed anew says what it said: to compare takes a hundredth of what drawing takes.
  const next = [props.data, props.layout, props.height, themes.tokens];
  if (dequal(next, drawn)) return;
  drawn = next;
  const element = (await plotly.react(
    box.value,
    props.data,
    plotlyLayout(themes.tokens, props.layout, props.height),
    config,
  )) as PlotlyHTMLElement;
  element.removeAllListeners('plotly_click');
  element.on('plotly_click', ({ points }) => emit('clickPoint', points[0]?.customdata));
}

function drawSoon(): void {
  if (drawing !== null) return;
  drawing = requestAnimationFrame(() => {
    drawing = window.setTimeout(() => {
      drawing = null;
      void draw();
    });
  });
}

/** As it stands; what is not drawn yet is drawn first. */
async function saveSvg(): Promise<void> {
  await draw();
  if (!plotly || !box.value) return;
  const { clientWidth } = box.value;
  const url = await plotly.toImage(box.value as PlotlyHTMLElement, { format: 'svg', width: clientWidth, height: props.height });
  saveText(`${props.name}.svg`, 'image/svg+xml', decodeURIComponent(url.slice(url.indexOf(',') + 1)));
}

onMounted(() => {
  drawSoon();
  observer = new ResizeObserver(() => {
    if (plotly && box.value) plotly.Plots.resize(box.value);
  });
  observer.observe(box.value!);
});
watch([() => props.data, () => props.layout, () => props.height, () => themes.tokens], drawSoon);
onBeforeUnmount(() => {
  gone = true;
  observer?.disconnect();
  if (plotly && box.value) plotly.purge(box.value);
});
</script>

<template>
  <ChartFrame :name="name" :title="title" :subtitle="subtitle" @save-svg="saveSvg" @save-csv="saveTable(`${name}.csv`, table)">
    <template #tools><slot name="tools" /></template>
    <div ref="box" class="plot" :style="{ height: `${height}px` }" role="img" :aria-label="`${title}. ${subtitle ?? ''}`" />
  </ChartFrame>
</template>

<style scoped>
.plot {
  width: 100%;
  /* A chart follows its place: it does not hold it open. */
  overflow: hidden;
}
</style>
