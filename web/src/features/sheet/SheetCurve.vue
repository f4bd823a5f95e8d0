<script setup lang="ts">
import type { Curves, DifferenceCurve, SetupCurve } from '@gezeit/contract';
import { fromSi } from '@gezeit/core';
import { ticks } from 'd3-array';
import { computed } from 'vue';
import { linePath } from '../../parts/tide/tide-geometry.js';
import { useShow } from '../../shared/units/use-show.js';

/** Power of both setups and their difference over engine speed, with bands: told apart by line and letter, not by colour alone. */
const props = defineProps<{
  curves: Curves;
  difference: DifferenceCurve | null;
  reference: string;
  candidate: string;
  bandRpm: readonly [number, number];
  smallestPct: number;
}>();
const show = useShow();

const WIDTH = 720;
const LEFT = 46;
const RIGHT = 34;
const POWER = { top: 14, height: 128 };
const DIFFERENCE = { top: 176, height: 104 };
const HEIGHT = 318;

const drawn = computed(() =>
  [props.reference, props.candidate]
    .map((id) => props.curves.setups.find(({ setup }) => setup === id))
    .filter((curve) => curve !== undefined),
);
const speeds = computed(() => {
  const all = drawn.value.flatMap(({ engineSpeedRpm }) => [engineSpeedRpm[0]!, engineSpeedRpm.at(-1)!]);
  return [Math.min(...all), Math.max(...all)] as const;
});
const x = (rpm: number) => LEFT + ((rpm - speeds.value[0]) / (speeds.value[1] - speeds.value[0])) * (WIDTH - LEFT - RIGHT);
function scale(values: readonly (number | null)[], { top, height }: typeof POWER) {
  const known = values.filter((value): value is number => value !== null && Number.isFinite(value));
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const room = 0.05 * (high - low || 1);
  const [from, to] = [low - room, high + room];
  return { y: (value: number) => top + height - ((value - from) / (to - from)) * height, ticks: ticks(from, to, 4) };
}
const inUnit = (watt: number) => fromSi(watt, show.value.units.power);
const power = computed(() =>
  scale(
    drawn.value.flatMap(({ powerLowW, powerHighW, powerW }) =>
      [...powerLowW, ...powerHighW, ...powerW].map((value) => (value === null ? null : inUnit(value))),
    ),
    POWER,
  ),
);
const percent = computed(() =>
  scale(
    [...(props.difference?.wholeLowPct ?? []), ...(props.difference?.wholeHighPct ?? []), props.smallestPct, -props.smallestPct],
    DIFFERENCE,
  ),
);
const line = (rpm: readonly number[], values: readonly number[], y: (value: number) => number) => linePath(rpm.map(x), values.map(y));
function band(
  rpm: readonly number[],
  low: readonly (number | null)[],
  high: readonly (number | null)[],
  y: (value: number) => number,
): string {
  const known = rpm.map((_, i) => i).filter((i) => low[i] != null && high[i] != null);
  if (known.length === 0) return '';
  const forth = known.map((i) => x(rpm[i]!));
  return `${linePath([...forth, ...[...forth].reverse()], [...known.map((i) => y(high[i]!)), ...[...known].reverse().map((i) => y(low[i]!))])}Z`;
}
const powerBand = ({ engineSpeedRpm, powerLowW, powerHighW }: SetupCurve) => {
  const shown = (values: readonly (number | null)[]) => values.map((value) => (value === null ? null : inUnit(value)));
  return band(engineSpeedRpm, shown(powerLowW), shown(powerHighW), power.value.y);
};
const speedTicks = computed(() => ticks(speeds.value[0], speeds.value[1], 8));
</script>

<template>
  <svg
    v-if="drawn.length > 0"
    class="sheet-curve"
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    role="img"
    :aria-label="`Power of ${reference} and ${candidate}, and their difference, over engine speed`"
  >
    <rect
      :x="x(bandRpm[0])"
      :y="POWER.top"
      :width="x(bandRpm[1]) - x(bandRpm[0])"
      :height="DIFFERENCE.top + DIFFERENCE.height - POWER.top"
      class="asked"
    />
    <g v-for="at in speedTicks" :key="`s${at}`">
      <line :x1="x(at)" :x2="x(at)" :y1="DIFFERENCE.top + DIFFERENCE.height" :y2="DIFFERENCE.top + DIFFERENCE.height + 4" class="axis" />
      <text :x="x(at)" :y="DIFFERENCE.top + DIFFERENCE.height + 18" text-anchor="middle">{{ at }}</text>
    </g>
    <text :x="(LEFT + WIDTH - RIGHT) / 2" :y="HEIGHT - 4" text-anchor="middle">engine speed, rpm; shaded: the band that was judged</text>
    <g v-for="at in power.ticks" :key="`p${at}`">
      <line :x1="LEFT" :x2="WIDTH - RIGHT" :y1="power.y(at)" :y2="power.y(at)" class="grid" />
      <text :x="LEFT - 6" :y="power.y(at) + 4" text-anchor="end">{{ at }}</text>
    </g>
    <text :x="LEFT" :y="POWER.top - 3">{{ show.units.power }}</text>
    <g v-for="(curve, i) in drawn" :key="curve.setup" :class="i === 0 ? 'reference' : 'candidate'">
      <path :d="powerBand(curve)" class="band" />
      <path :d="line(curve.engineSpeedRpm, curve.powerW.map(inUnit), power.y)" class="line" />
      <text :x="WIDTH - RIGHT + 4" :y="power.y(inUnit(curve.powerW.at(-1)!)) + (i === 0 ? 10 : -2)" class="letter">{{ curve.setup }}</text>
    </g>
    <g v-if="difference">
      <path :d="band(difference.engineSpeedRpm, difference.wholeLowPct, difference.wholeHighPct, percent.y)" class="band whole" />
      <path :d="band(difference.engineSpeedRpm, difference.lowPct, difference.highPct, percent.y)" class="band each" />
      <g v-for="at in percent.ticks" :key="`d${at}`">
        <line :x1="LEFT" :x2="WIDTH - RIGHT" :y1="percent.y(at)" :y2="percent.y(at)" :class="at === 0 ? 'axis' : 'grid'" />
        <text :x="LEFT - 6" :y="percent.y(at) + 4" text-anchor="end">{{ at > 0 ? '+' : '' }}{{ String(at).replace('-', '−') }}</text>
      </g>
      <line
        v-for="at in [-smallestPct, smallestPct]"
        :key="at"
        :x1="LEFT"
        :x2="WIDTH - RIGHT"
        :y1="percent.y(at)"
        :y2="percent.y(at)"
        class="smallest"
      />
      <path :d="line(difference.engineSpeedRpm, difference.pct, percent.y)" class="line" />
      <text :x="LEFT" :y="DIFFERENCE.top - 5">
        {{ candidate }} against {{ reference }}, %; dark: 95 % at each speed, pale: of the whole curve; dotted: ±{{ smallestPct }} %
      </text>
    </g>
  </svg>
</template>

<style scoped>
.sheet-curve {
  width: 100%;
  height: auto;
  display: block;
  font-size: 13px;
  color: #111;
}
text {
  fill: #222;
}
.letter {
  font-weight: 700;
}
.asked {
  fill: #00000009;
}
.grid {
  stroke: #ccc;
}
.axis {
  stroke: #444;
}
.line {
  fill: none;
  stroke: #111;
  stroke-width: 1.6;
}
.reference .line {
  stroke-dasharray: 6 3;
}
.band {
  fill: #00000014;
}
.each {
  fill: #00000033;
}
.smallest {
  stroke: #444;
  stroke-dasharray: 1.5 3;
}
</style>
