<script setup lang="ts">
import type { Tide } from '@gezeit/contract';
import { tideSourceText } from '@gezeit/core';
import { computed, ref, useTemplateRef } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../../model/programme-store.js';
import { useSelection } from '../../model/use-selection.js';
import { tideGeometry } from './tide-geometry.js';
import TideFrame from './TideFrame.vue';
import SetupGround from './SetupGround.vue';
import TidePost from './TidePost.vue';

/** The day as a band of time: pulls stand in it as posts, heat is the water line. It is the navigator of its screen. */
const props = defineProps<{ tide: Tide; timeZone?: string | null }>();

const programme = useProgramme();
const selection = useSelection();
const show = useShow();
const frame = useTemplateRef<InstanceType<typeof TideFrame>>('frame');
const width = ref(1200);
const hovered = ref<string | null>(null);

const geometry = computed(() => tideGeometry(props.tide, width.value));
const clock = computed(
  () => new Intl.DateTimeFormat('en-GB', { hour: 'numeric', minute: '2-digit', hourCycle: 'h23', timeZone: props.timeZone ?? undefined }),
);

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
  void frame.value?.focusPost();
}

function table() {
  const { pulls } = props.tide;
  return [
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
}
</script>

<template>
  <TideFrame
    ref="frame"
    v-model:width="width"
    name="tide"
    title="Tide of the day"
    :subtitle="told ? describe(told) : tideSourceText(tide.source, show.words)"
    label="Pulls of the day in order of time"
    :stretches="tide.stretches"
    :geometry="geometry"
    :clock="(ms) => clock.format(ms)"
    fitted-words="A recovery fitted from the end of one pull to the start of the next"
    :table="table"
  >
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
  </TideFrame>
</template>
