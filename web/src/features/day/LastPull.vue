<script setup lang="ts">
import { computed, useTemplateRef } from 'vue';
import { useWidth } from '../../shared/use-width.js';
import { isNoGood, pullOfDayText } from '@gezeit/core';
import { saveTable, saveText, svgText } from '../../shared/save.js';
import ChartFrame from '../../shared/charts/ChartFrame.vue';
import { drawn as inUnit } from '../../shared/units/show.js';
import { useShow } from '../../shared/units/use-show.js';
import { useUnits } from '../../shared/units/units-store.js';
import { useProgramme } from '../../model/programme-store.js';
import { useCurves } from '../../model/use-curves.js';
import { linePath } from '../../parts/tide/tide-geometry.js';
import { useDay } from './day-store.js';
import { liftOf, pullChannels } from './pull-channels.js';

/** The pull under way as it is drawn, or the last one over the others of its setup, and what was looked at when it closed. */
const props = defineProps<{ pull: string | null }>();
const day = useDay();
const programme = useProgramme();
useCurves();
const units = useUnits();
const show = useShow();
const svg = useTemplateRef<SVGSVGElement>('svg');
const box = useTemplateRef<HTMLElement>('box');
const W = useWidth(box, 270, 440);
const H = 122;
/** Beside the power stand the other channels, where there is room for both. */
const SMALL_WIDTH = 168;
const SMALL_HEIGHT = 36;

const entry = computed(() => day.state.pulls.find(({ id }) => id === props.pull) ?? null);
const isLive = computed(() => entry.value !== null && day.state.running?.id === entry.value.id);
const unit = computed(() => units.chosen.power);
const ownTrace = computed(() => (day.trace?.pull === props.pull ? day.trace : null));
const channels = computed(() => (ownTrace.value ? pullChannels(ownTrace.value, show.value) : []));
const small = computed(() =>
  channels.value.map((channel, i) => {
    const [low, high] = [Math.min(...channel.value), Math.max(...channel.value)];
    const [first, last] = [Math.min(...channel.rpm), Math.max(...channel.rpm)];
    const top = i * (SMALL_HEIGHT + 4);
    const left = W.value - SMALL_WIDTH;
    const xs = channel.rpm.map((rpm) => left + ((rpm - first) / Math.max(1, last - first)) * SMALL_WIDTH);
    const ys = channel.value.map((value) => top + SMALL_HEIGHT - ((value - low) / Math.max(1e-9, high - low)) * (SMALL_HEIGHT - 18));
    return { ...channel, top, left, path: linePath(xs, ys) };
  }),
);
const own = computed(() => {
  const trace = ownTrace.value;
  const curve = programme.curves?.pulls.find(({ id }) => id === props.pull);
  if (curve && !isLive.value) return { rpm: curve.engineSpeedRpm, power: inUnit(curve.powerW, unit.value) };
  if (!trace) return { rpm: [], power: [] };
  const known = trace.engineSpeedRpm
    .slice(0, liftOf(trace))
    .map((rpm, i) => ({ rpm, power: trace.channels['power']?.[i] ?? 0 }))
    .filter(({ power }) => power > 0);
  return {
    rpm: known.map(({ rpm }) => rpm),
    power: inUnit(
      known.map(({ power }) => power),
      unit.value,
    ),
  };
});
const hasPicture = computed(() => own.value.rpm.length > 1 || channels.value.length > 0);
const others = computed(() =>
  (programme.curves?.pulls ?? [])
    .filter(({ id, setup, used }) => id !== props.pull && setup === entry.value?.setup && used)
    .map(({ engineSpeedRpm, powerW }) => ({ rpm: engineSpeedRpm, power: inUnit(powerW, unit.value) })),
);
const range = computed(() => {
  const all = [own.value, ...others.value];
  const rpm = all.flatMap((curve) => curve.rpm);
  const power = all.flatMap((curve) => curve.power);
  return { rpm: [Math.min(...rpm), Math.max(...rpm)], power: [Math.min(...power), Math.max(...power)] };
});
const plotWidth = computed(() => (channels.value.length > 0 ? W.value - SMALL_WIDTH - 14 : W.value));
const x = (rpm: number) =>
  4 + ((rpm - range.value.rpm[0]!) / Math.max(1, range.value.rpm[1]! - range.value.rpm[0]!)) * (plotWidth.value - 60);
const y = (power: number) =>
  H - 20 - ((power - range.value.power[0]!) / Math.max(1e-6, range.value.power[1]! - range.value.power[0]!)) * (H - 34);
const path = (curve: { rpm: number[]; power: number[] }) => (curve.rpm.length > 1 ? linePath(curve.rpm.map(x), curve.power.map(y)) : '');
const colour = computed(() => day.setupById.get(entry.value?.setup ?? '')?.colour ?? 'currentColor');

const known = computed(() => day.pullOfDay(props.pull));
const checks = computed(() => known.value?.checks ?? []);
const sentence = computed(() => (known.value ? pullOfDayText(known.value) : 'No pull yet. Its trace and checks stand here.'));
const isBad = computed(() => known.value !== null && isNoGood(known.value));
const STATES = { good: 'good', bad: 'bad', note: 'note', unknown: 'not logged' };

const save = () =>
  saveTable('last-pull.csv', [
    { header: 'engine speed [rpm]', values: own.value.rpm },
    { header: `power [${unit.value}]`, values: own.value.power },
    ...channels.value.flatMap((channel) => [
      { header: `engine speed of ${channel.label.toLowerCase()} [rpm]`, values: channel.rpm },
      { header: `${channel.label.toLowerCase()}${channel.unit ? ` [${channel.unit}]` : ''}`, values: channel.value },
    ]),
  ]);
</script>

<template>
  <div class="last" :class="{ bare: !hasPicture }">
    <div ref="box" class="picture">
      <ChartFrame
        v-if="hasPicture"
        name="last-pull"
        :title="entry ? `Pull ${entry.id}` : 'Last pull'"
        :subtitle="`power at the wheels, ${unit}`"
        @save-svg="svg && saveText('last-pull.svg', 'image/svg+xml', svgText(svg))"
        @save-csv="save"
      >
        <svg
          ref="svg"
          :viewBox="`0 0 ${W} ${H}`"
          class="trace"
          role="img"
          :aria-label="[sentence, ...channels.map(({ label, text }) => `${label} ${text}.`)].join(' ')"
        >
          <path v-for="(curve, i) in others" :key="i" :d="path(curve)" class="other" />
          <path :d="path(own)" class="own" :stroke="colour" />
          <template v-if="own.rpm.length > 1">
            <text :x="x(own.rpm.at(-1)!) + 4" :y="y(own.power.at(-1)!) + 4">{{ own.power.at(-1)!.toFixed(0) }} {{ unit }}</text>
            <text x="4" :y="H - 4">{{ Math.round(range.rpm[0]!) }}</text>
            <text :x="plotWidth - 56" :y="H - 4" text-anchor="end">{{ Math.round(range.rpm[1]!) }} rpm</text>
          </template>
          <g v-for="channel in small" :key="channel.label">
            <text :x="channel.left" :y="channel.top + 12">{{ channel.label }}</text>
            <text :x="W" :y="channel.top + 12" text-anchor="end" class="figure">{{ channel.text }}</text>
            <path :d="channel.path" class="small" :stroke="colour" />
          </g>
        </svg>
      </ChartFrame>
      <h2 v-else>{{ entry ? `Pull ${entry.id}` : 'Last pull' }}</h2>
    </div>
    <div class="checks">
      <p class="sentence" :class="{ bad: isBad }" role="status">{{ sentence }}</p>
      <ul v-if="checks.length > 0" aria-label="Checks of the pull">
        <li v-for="check in checks" :key="check.id" :class="check.state" :title="check.detail">
          <i
            class="pi"
            :class="{ good: 'pi-check', bad: 'pi-times', note: 'pi-info-circle', unknown: 'pi-minus' }[check.state]"
            aria-hidden="true"
          />{{ check.label }}<span class="visually-hidden">: {{ STATES[check.state] }}, {{ check.detail }}</span>
        </li>
      </ul>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.last {
  display: grid;
  grid-template-columns: minmax(0, 1.45fr) minmax(0, 1fr);
  gap: 1rem;
  min-width: 0;
}
.bare {
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
  gap: 0.2rem;
}
.trace {
  width: 100%;
  height: auto;
  font-size: 13px;
}
.trace text {
  fill: var(--muted);
}
.own {
  fill: none;
  stroke-width: 2.5;
}
.small {
  fill: none;
  stroke-width: 1.8;
}
.trace .figure {
  fill: var(--ink);
  font-variant-numeric: tabular-nums;
}
.picture {
  min-width: 0;
}
.other {
  fill: none;
  stroke: var(--neutral);
  opacity: 0.5;
}
.sentence {
  font-size: 17px;
  font-weight: 600;
}
.sentence.bad {
  color: var(--brick);
}
ul {
  list-style: none;
  padding: 0;
  margin-top: 0.35rem;
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 0.9rem;
}
li {
  display: inline-flex;
  gap: 0.3rem;
  align-items: center;
}
li.good .pi {
  color: var(--green);
}
li.bad {
  color: var(--brick);
  font-weight: 600;
}
li.unknown {
  color: var(--muted);
}
@media (max-width: 900px) {
  .last {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
