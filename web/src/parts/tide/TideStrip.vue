<script setup lang="ts">
import type { Tide } from '@gezeit/contract';
import { computed, ref, useTemplateRef } from 'vue';
import { saveTable, saveText, svgText } from '../../shared/save.js';
import ChartFrame from '../../shared/charts/ChartFrame.vue';
import { useShow } from '../../shared/units/use-show.js';
import { useWidth } from '../../shared/use-width.js';
import { useProgramme } from '../../model/programme-store.js';
import { useSelection } from '../../model/use-selection.js';
import { TIDE_SIZE, tideGeometry } from './tide-geometry.js';
import SetupGround from './SetupGround.vue';
import TidePost from './TidePost.vue';
import TideWater from './TideWater.vue';

/** The day as a band of time: pulls stand in it as posts, heat is the water line. It is the navigator of its screen. */
const props = defineProps<{ tide: Tide; timeZone?: string | null }>();

const programme = useProgramme();
const selection = useSelection();
const show = useShow();
const box = useTemplateRef<HTMLElement>('box');
const svg = useTemplateRef<SVGSVGElement>('svg');
const width = useWidth(box);
const hovered = ref<string | null>(null);

const height = TIDE_SIZE.top + TIDE_SIZE.waterHeight + TIDE_SIZE.bottom;
const geometry = computed(() => tideGeometry(props.tide, width.value));
const clock = computed(() => {
  const options: Intl.DateTimeFormatOptions = { hour: 'numeric', minute: '2-digit', hourCycle: 'h23' };
  try {
    return new Intl.DateTimeFormat('en-GB', { ...options, timeZone: props.timeZone ?? undefined });
  } catch {
    return new Intl.DateTimeFormat('en-GB', options);
  }
});

const posts = computed(() =>
  props.tide.pulls.map((pull, index) => {
    const style = programme.setupById.get(pull.setup);
    return {
      ...pull,
      number: index + 1,
      x: geometry.value.x(pull.startMs),
      headX: geometry.value.headX.get(pull.id)!,
      colour: style?.colour ?? 'currentColor',
      name: style?.setup.name ?? pull.setup,
    };
  }),
);
type Post = (typeof posts.value)[number];
const post = (id: string | null) => posts.value.find((entry) => entry.id === id);
const told = computed(() => post(hovered.value) ?? post(selection.pull.value));
const reachable = computed(() => selection.pull.value ?? posts.value[0]?.id);

function describe({ id, number, setup, name, kind, status, startMs, startK }: Post): string {
  const heat = startK === null ? '' : `, started ${show.value.temperatureDifference(startK)} ${show.value.differenceUnit} above ambient`;
  return `${setup} ${number}: pull ${id} of ${name}, ${kind}${status === 'excluded' && kind === 'measured' ? ', left out' : ''}, ${clock.value.format(startMs)}${heat}`;
}

function toggle(id: string): void {
  selection.pull.value = selection.pull.value === id ? null : id;
}

function move(event: KeyboardEvent, by: 1 | -1): void {
  event.preventDefault();
  event.stopPropagation();
  selection.step(by);
  requestAnimationFrame(() => svg.value?.querySelector<SVGGElement>('[data-post][tabindex="0"]')?.focus());
}

function saveCsv(): void {
  const { pulls } = props.tide;
  const columns = [
    { header: 'pull', values: pulls.map(({ id }) => id) },
    { header: 'setup', values: pulls.map(({ setup }) => setup) },
    { header: 'kind', values: pulls.map(({ kind }) => kind) },
    { header: 'status', values: pulls.map(({ status }) => status) },
    { header: 'started at', values: pulls.map(({ startMs }) => new Date(startMs).toISOString()) },
    {
      header: `start above ambient [${show.value.differenceUnit}]`,
      values: pulls.map(({ startK }) => (startK === null ? null : show.value.differenceOf(startK))),
    },
    {
      header: `end above ambient [${show.value.differenceUnit}]`,
      values: pulls.map(({ endK }) => (endK === null ? null : show.value.differenceOf(endK))),
    },
  ];
  void saveTable('tide.csv', columns);
}
</script>

<template>
  <ChartFrame
    name="tide"
    title="Tide of the day"
    :subtitle="told ? describe(told) : tide.sourceText.replace(', K', `, ${show.differenceUnit}`)"
    @save-svg="svg && saveText('tide.svg', 'image/svg+xml', svgText(svg))"
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
          :stretches="tide.stretches"
          :geometry="geometry"
          :width="width"
          :clock="(ms) => clock.format(ms)"
          fitted-words="A recovery fitted from the end of one pull to the start of the next"
        />
        <SetupGround v-for="(block, index) in geometry.blocks" :key="`block-${index}`" :block="block" :ground-y="geometry.groundY" />
        <TidePost
          v-for="entry in posts"
          :key="entry.id"
          :post="entry"
          :ground-y="geometry.groundY"
          :label="describe(entry)"
          :pull="entry.id"
          :out="entry.status === 'excluded'"
          :selected="entry.id === selection.pull.value"
          :reachable="entry.id === reachable"
          @choose="toggle(entry.id)"
          @move="move"
          @hover="hovered = $event ? entry.id : null"
        />
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
</style>
