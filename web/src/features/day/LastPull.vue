<script setup lang="ts">
import { computed, useTemplateRef } from 'vue';
import { csvText, saveText, svgText } from '../../shared/save.js';
import ChartFrame from '../../shared/ui/ChartFrame.vue';
import { drawn as inUnit } from '../../shared/units/show.js';
import { useUnits } from '../../shared/units/units-store.js';
import { useProgramme } from '../programme/programme-store.js';
import { linePath } from '../tide/tide-geometry.js';
import { useDay } from './day-store.js';

/** The pull under way as it is drawn, or the last one over the others of its setup, and what was looked at when it closed. */
const props = defineProps<{ pull: string | null }>();
const day = useDay();
const programme = useProgramme();
const units = useUnits();
const svg = useTemplateRef<SVGSVGElement>('svg');
const [W, H] = [420, 118];

const entry = computed(() => day.state.pulls.find(({ id }) => id === props.pull) ?? null);
const isLive = computed(() => entry.value !== null && day.state.running?.id === entry.value.id);
const unit = computed(() => units.chosen.power);
const own = computed(() => {
  const { trace } = day;
  const curve = programme.curves?.pulls.find(({ id }) => id === props.pull);
  if (curve && !isLive.value) return { rpm: curve.engineSpeedRpm, power: inUnit(curve.powerW, unit.value) };
  if (trace?.pull !== props.pull || !trace) return { rpm: [], power: [] };
  // The coast-down behind the lift is no part of the pull.
  const lift = trace.engineSpeedRpm.indexOf(Math.max(...trace.engineSpeedRpm)) + 1;
  const known = trace.engineSpeedRpm
    .slice(0, lift)
    .map((rpm, i) => ({ rpm, power: trace.powerW[i]! }))
    .filter(({ power }) => power !== null && power > 0);
  return {
    rpm: known.map(({ rpm }) => rpm),
    power: inUnit(
      known.map(({ power }) => power),
      unit.value,
    ),
  };
});
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
const x = (rpm: number) => 4 + ((rpm - range.value.rpm[0]!) / Math.max(1, range.value.rpm[1]! - range.value.rpm[0]!)) * (W - 60);
const y = (power: number) =>
  H - 20 - ((power - range.value.power[0]!) / Math.max(1e-6, range.value.power[1]! - range.value.power[0]!)) * (H - 34);
const path = (curve: { rpm: number[]; power: number[] }) => (curve.rpm.length > 1 ? linePath(curve.rpm.map(x), curve.power.map(y)) : '');
const colour = computed(() => programme.setupById.get(entry.value?.setup ?? '')?.colour ?? 'currentColor');

const checks = computed(() => day.checksOf(props.pull));
const bad = computed(() => checks.value.filter(({ state }) => state === 'bad'));
const sentence = computed(() => {
  if (!entry.value) return 'No pull yet. Its trace and checks stand here.';
  const { id, kind, aborted, typed } = entry.value;
  if (isLive.value) return `Pull ${id} under way.`;
  if (aborted) return `Pull ${id} aborted: kept, not counted; it heats and teaches the car all the same.`;
  if (typed) return `Pull ${id}: figures typed from the cell’s screen.`;
  if (checks.value.length === 0) return `Pull ${id}: no file yet.`;
  if (bad.value.length > 0 && kind === 'measured') return `Pull ${id} is no good: ${bad.value.map(({ detail: text }) => text).join('; ')}.`;
  const reasons = day.leftOut.get(id);
  if (kind === 'measured' && reasons) return `Pull ${id} left out: ${reasons.join(', ')}.`;
  return kind === 'measured' ? `Pull ${id} counts.` : `Pull ${id}: ${kind}, never compared.`;
});
const STATES = { good: 'good', bad: 'bad', note: 'note', unknown: 'not logged' };

const save = () =>
  saveText(
    'last-pull.csv',
    'text/csv',
    csvText([
      { header: 'engine speed [rpm]', values: own.value.rpm },
      { header: `power [${unit.value}]`, values: own.value.power },
    ]),
  );
</script>

<template>
  <div class="last">
    <ChartFrame
      v-if="own.rpm.length > 1"
      name="last-pull"
      :title="entry ? `Pull ${entry.id}` : 'Last pull'"
      :subtitle="`power at the wheels, ${unit}, uncorrected`"
      @save-svg="svg && saveText('last-pull.svg', 'image/svg+xml', svgText(svg))"
      @save-csv="save"
    >
      <svg ref="svg" :viewBox="`0 0 ${W} ${H}`" class="trace" role="img" :aria-label="`${sentence} ${own.rpm.length} points drawn.`">
        <path v-for="(curve, i) in others" :key="i" :d="path(curve)" class="other" />
        <path :d="path(own)" class="own" :stroke="colour" />
        <template v-if="own.rpm.length > 1">
          <text :x="W - 52" :y="y(own.power.at(-1)!) + 4">{{ own.power.at(-1)!.toFixed(0) }} {{ unit }}</text>
          <text x="4" :y="H - 4">{{ Math.round(range.rpm[0]!) }}</text>
          <text :x="W - 56" :y="H - 4" text-anchor="end">{{ Math.round(range.rpm[1]!) }} rpm</text>
        </template>
      </svg>
    </ChartFrame>
    <h2 v-else>{{ entry ? `Pull ${entry.id}` : 'Last pull' }}</h2>
    <div class="checks">
      <p class="sentence" :class="{ bad: bad.length > 0 && entry?.kind === 'measured' }" role="status">{{ sentence }}</p>
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
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 1rem;
  min-width: 0;
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
