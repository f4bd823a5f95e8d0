<script setup lang="ts">
import { resolutionText, worstResolvable } from '@gezeit/core';
import { computed, ref, useTemplateRef } from 'vue';
import { saveTable, saveText, svgText } from '../../shared/save.js';
import ChartFrame from '../../shared/charts/ChartFrame.vue';
import { withSign } from '../../shared/units/show.js';
import { useProgramme } from '../../model/programme-store.js';
import { useDay } from './day-store.js';

/** What the day can say already: an interval that closes in after every pull, and what it could recognise if it ended now. */
const day = useDay();
const programme = useProgramme();
const svg = useTemplateRef<SVGSVGElement>('svg');
const [W, H] = [380, 84];
const chosen = ref(0);

const pairs = computed(() => {
  const last = day.state.said.at(-1)?.comparisons ?? [];
  return last.map(({ reference, candidate }) => ({ reference, candidate }));
});
const pair = computed(() => pairs.value[Math.min(chosen.value, pairs.value.length - 1)] ?? null);
/** The last word after each pull, for the chosen comparison. */
const rows = computed(() => {
  const byPull = new Map<string, { pull: string; pct: number; low: number; high: number }>();
  for (const { pull, comparisons } of day.state.said) {
    const own = comparisons.find(({ reference, candidate }) => reference === pair.value?.reference && candidate === pair.value.candidate);
    if (own && own.pct !== null && own.low !== null && own.high !== null)
      byPull.set(pull, { pull, pct: own.pct, low: own.low, high: own.high });
  }
  // A pull that changed nothing (a conditioning one) says nothing new.
  return [...byPull.values()].filter((row, i, all) => i === 0 || row.low !== all[i - 1]!.low || row.high !== all[i - 1]!.high);
});
const smallest = computed(() => programme.view!.bundle.programme.smallestGainPct);
const scale = computed(
  () => Math.max(2.2 * smallest.value, ...rows.value.slice(-8).flatMap(({ low, high }) => [Math.abs(low), Math.abs(high)])) * 1.05,
);
const shown = computed(() => rows.value.slice(-8));
const y = (pct: number) => H / 2 - (Math.max(-scale.value, Math.min(scale.value, pct)) / scale.value) * (H / 2 - 8);
const x = (i: number) => 74 + i * 34;
const last = computed(() => rows.value.at(-1) ?? null);
const isClear = computed(() => last.value !== null && (last.value.low > 0 || last.value.high < 0));
const stopped = computed(() => worstResolvable(day.resolution.ifStopped));
const planned = computed(() => worstResolvable(day.resolution.planned));
const goneOn = computed(() => worstResolvable(day.resolution.ifGoneOn));
const nameOf = (id: string) => day.setupById.get(id)?.setup.name ?? id;
const saveCsv = () =>
  saveTable('day-says.csv', [
    { header: 'after pull', values: rows.value.map(({ pull }) => pull) },
    { header: 'difference [%]', values: rows.value.map((row) => row.pct) },
    { header: 'low [%]', values: rows.value.map(({ low }) => low) },
    { header: 'high [%]', values: rows.value.map(({ high }) => high) },
  ]);
</script>

<template>
  <div class="says">
    <ChartFrame
      v-if="last"
      name="day-says"
      :title="pair ? `${pair.candidate} against ${pair.reference} so far` : 'What the day says'"
      :subtitle="`${withSign(last.pct, 1)} % (${withSign(last.low, 1)} to ${withSign(last.high, 1)})`"
      @save-svg="svg && saveText('day-says.svg', 'image/svg+xml', svgText(svg))"
      @save-csv="saveCsv"
    >
      <template v-if="pairs.length > 1" #tools>
        <button v-for="(entry, i) in pairs" :key="entry.candidate" class="pick" :aria-pressed="i === chosen" @click="chosen = i">
          {{ entry.candidate }}
        </button>
      </template>
      <svg
        ref="svg"
        :viewBox="`0 0 ${W} ${H}`"
        role="img"
        :aria-label="`${nameOf(pair!.candidate)} against ${nameOf(pair!.reference)}: ${withSign(last.pct, 1)} % (${withSign(last.low, 1)} to ${withSign(last.high, 1)})`"
      >
        <rect x="60" :y="y(smallest)" :width="W - 60" :height="y(-smallest) - y(smallest)" class="within" />
        <line x1="60" :x2="W" :y1="y(0)" :y2="y(0)" class="zero" />
        <template v-if="y(0) - y(smallest) > 12">
          <text x="54" :y="y(smallest) + 4" text-anchor="end">+{{ smallest }} %</text>
          <text x="54" :y="y(0) + 4" text-anchor="end">0</text>
          <text x="54" :y="y(-smallest) + 4" text-anchor="end">−{{ smallest }}</text>
        </template>
        <text v-else x="54" :y="y(0) + 4" text-anchor="end">0 ± {{ smallest }} %</text>
        <g v-for="(row, i) in shown" :key="row.pull" :class="{ last: i === shown.length - 1 }">
          <line :x1="x(i)" :x2="x(i)" :y1="y(row.high)" :y2="y(row.low)" class="bar" />
          <circle :cx="x(i)" :cy="y(row.pct)" r="4" />
        </g>
      </svg>
    </ChartFrame>
    <template v-else>
      <h2>What the day says</h2>
      <p class="muted">After the first measured pull of a second setup an interval stands here, and closes in.</p>
    </template>
    <p v-if="stopped !== null" class="stopped">
      If you stop now, you can recognise <b>{{ resolutionText(stopped) }}</b
      ><template v-if="goneOn !== null && day.state.remaining.length > 0"
        >; gone on as it stands, <b>{{ resolutionText(goneOn) }}</b></template
      ><template v-if="planned !== null && (goneOn === null || resolutionText(planned) !== resolutionText(goneOn))"
        >; as planned, {{ resolutionText(planned) }}</template
      >.
    </p>
    <p v-else-if="planned !== null" class="stopped">As planned, the day recognises <b>{{ resolutionText(planned) }}</b>.</p>
    <p v-if="isClear && day.state.remaining.length > 0" class="warn">
      It looks clear: that is no reason to stop. Who stops there finds gains that are not.
    </p>
  </div>
</template>

<style scoped>
.says {
  min-width: 0;
}
svg {
  width: 100%;
  height: auto;
  max-height: 6rem;
  font-size: 13px;
}
svg text {
  fill: var(--muted);
}
.within {
  fill: var(--neutral-soft);
}
.zero {
  stroke: var(--ink);
}
.bar {
  stroke: var(--neutral);
  stroke-width: 4;
  stroke-linecap: round;
}
circle {
  fill: var(--neutral);
}
.last .bar {
  stroke: var(--green);
}
.last circle {
  fill: var(--green);
}
.says :deep(.subtitle) {
  font-size: 16px;
  font-weight: 650;
  color: var(--ink);
}
.warn {
  color: var(--amber);
  font-weight: 600;
}
.pick {
  min-width: 2rem;
  border: 1px solid var(--line);
  background: none;
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}
.pick[aria-pressed='true'] {
  border-color: var(--green);
  font-weight: 700;
}
</style>
