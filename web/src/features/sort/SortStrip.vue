<script setup lang="ts">
import { DEVICE_WORDS } from '@gezeit/core';
import type { Reading } from '@gezeit/contract';
import { computed, useTemplateRef } from 'vue';
import { dashArray, setupStyle } from '../../shared/charts/setup-colours.js';
import { useTheme } from '../../shared/charts/theme-store.js';
import { useWidth } from '../../shared/use-width.js';
import type { StagedPull } from '../../model/staged-pulls.js';
import { STRIP, stripGeometry } from './strip-geometry.js';

/** The day as it was found in the files: a post for each pull at its time, a row for each device with a mark where it has the pull. */
const props = defineProps<{
  pulls: readonly StagedPull[];
  reading: Reading;
  setups: readonly { id: string; name: string }[];
  selected: readonly string[];
  startMs: number | null;
  timeZone: string;
}>();
const emit = defineEmits<{ select: [keys: string[]] }>();
const theme = useTheme();
const frame = useTemplateRef<HTMLElement>('frame');
const width = useWidth(frame);

const geometry = computed(() => stripGeometry(props.pulls, width.value, props.startMs, props.timeZone));
const devices = computed(() => {
  const listed = new Set(props.pulls.flatMap(({ members }) => members.map(({ file }) => file)));
  const kinds = props.reading.files.filter(({ file }) => listed.has(file)).map(({ device }) => device);
  return ['ecu', 'dyno', 'daq', 'weather', 'unknown'].filter((kind) => kinds.some((own) => own === kind));
});
const deviceOf = computed(() => new Map(props.reading.files.map(({ file, device }) => [file, device])));
const height = computed(() => STRIP.top + STRIP.rowHeight * devices.value.length + STRIP.bottom);
const styleOf = (setup: string) =>
  setupStyle(
    Math.max(
      0,
      props.setups.findIndex(({ id }) => id === setup),
    ),
    theme.theme,
  );
const xOf = computed(() => new Map(geometry.value.posts.map(({ key, x }) => [key, x])));
const hasFile = (pull: StagedPull, device: string) => pull.members.find(({ file }) => deviceOf.value.get(file) === device);
const lengthOf = ({ members }: StagedPull) =>
  members[0]?.startS == null || members[0].endS === null ? null : members[0].endS - members[0].startS;
const labelOf = (pull: StagedPull) => `${pull.id}, setup ${pull.setup}${pull.kind === 'measured' ? '' : `, ${pull.kind}`}`;

// Dragging over posts selects them all.
let dragged: string[] | null = null;
function begin(key: string, event: PointerEvent): void {
  dragged = event.shiftKey ? [...new Set([...props.selected, key])] : [key];
  (event.target as Element).releasePointerCapture?.(event.pointerId);
  emit('select', dragged);
}
function over(key: string): void {
  if (!dragged || dragged.includes(key)) return;
  dragged = [...dragged, key];
  emit('select', dragged);
}
const end = () => (dragged = null);
</script>

<template>
  <div ref="frame" class="frame" @pointerup="end" @pointerleave="end">
    <svg :width="width" :height="height" role="group" aria-label="The day in the files">
      <g v-for="(device, row) in devices" :key="device">
        <text class="device" x="0" :y="STRIP.top + row * STRIP.rowHeight + 17">{{ DEVICE_WORDS[device] }}</text>
        <line
          class="rail"
          :x1="STRIP.left"
          :x2="width - STRIP.right"
          :y1="STRIP.top + row * STRIP.rowHeight + 13"
          :y2="STRIP.top + row * STRIP.rowHeight + 13"
        />
      </g>
      <g v-for="ground in geometry.grounds" :key="ground.fromX">
        <line
          :x1="ground.fromX + 2"
          :x2="ground.toX - 2"
          :y1="height - STRIP.bottom + 4"
          :y2="height - STRIP.bottom + 4"
          :stroke="styleOf(ground.setup).colour"
          stroke-width="5"
          :stroke-dasharray="dashArray(styleOf(ground.setup).dash)"
        />
      </g>
      <text v-for="tick in geometry.ticks" :key="tick.x" class="tick" :x="tick.x" :y="height - 4">{{ tick.label }}</text>
      <g
        v-for="pull in pulls"
        :key="pull.key"
        class="post"
        :class="{ selected: selected.includes(pull.key), pale: pull.kind !== 'measured' }"
        tabindex="0"
        role="button"
        :aria-pressed="selected.includes(pull.key)"
        :aria-label="labelOf(pull)"
        :data-post="pull.id"
        @pointerdown="begin(pull.key, $event)"
        @pointerenter="over(pull.key)"
        @keydown.enter.prevent="emit('select', [pull.key])"
        @keydown.space.prevent="emit('select', [pull.key])"
      >
        <rect class="hit" :x="xOf.get(pull.key)! - 11" y="0" width="22" :height="height - STRIP.bottom" />
        <line
          :x1="xOf.get(pull.key)"
          :x2="xOf.get(pull.key)"
          :y1="STRIP.top - 8"
          :y2="height - STRIP.bottom"
          :stroke="styleOf(pull.setup).colour"
          stroke-width="2"
        />
        <text class="head" :x="xOf.get(pull.key)" :y="STRIP.top - 14" :fill="styleOf(pull.setup).colour">{{ pull.setup }}</text>
        <template v-for="(device, row) in devices" :key="device">
          <circle
            v-if="hasFile(pull, device)"
            :cx="xOf.get(pull.key)"
            :cy="STRIP.top + row * STRIP.rowHeight + 13"
            r="6"
            :fill="styleOf(pull.setup).colour"
          >
            <title>{{ hasFile(pull, device)!.file }}{{ lengthOf(pull) === null ? '' : `, ${lengthOf(pull)!.toFixed(1)} s` }}</title>
          </circle>
          <path v-else class="gap" :d="`M${xOf.get(pull.key)! - 4} ${STRIP.top + row * STRIP.rowHeight + 9} l8 8 m0 -8 l-8 8`" />
        </template>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.frame {
  overflow-x: auto;
  touch-action: none;
}
.device {
  fill: var(--ink);
  font-size: 14px;
}
.rail {
  stroke: var(--line);
}
.tick {
  fill: var(--muted);
  font-size: 13px;
  text-anchor: middle;
}
.post {
  cursor: pointer;
}
.hit {
  fill: transparent;
}
.post.selected .hit {
  fill: var(--green-soft);
}
.post:focus-visible {
  outline: none;
}
.post:focus-visible .hit {
  stroke: var(--green);
  stroke-width: 2;
}
.post.pale circle,
.post.pale line {
  opacity: 0.4;
}
.head {
  font-weight: 700;
  font-size: 15px;
  text-anchor: middle;
}
.gap {
  stroke: var(--amber);
  stroke-width: 2;
  fill: none;
}
</style>
