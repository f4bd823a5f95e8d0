<script setup lang="ts">
import { type Budget, fromSi } from '@gezeit/core';
import { computed, useTemplateRef } from 'vue';
import { saveTable, saveText, svgText } from '../../shared/save.js';
import { dashArray } from '../../shared/charts/setup-colours.js';
import ChartFrame from '../../shared/charts/ChartFrame.vue';
import SetupMark from '../../shared/ui/SetupMark.vue';
import { plain } from '../../shared/units/show.js';
import { useShow } from '../../shared/units/use-show.js';
import { useWidth } from '../../shared/use-width.js';
import { useProgramme } from '../../model/programme-store.js';
import { digitsFor } from '../../shared/units/figure-text.js';
import { descent } from './path-geometry.js';
import { SOURCE_WORDS } from './section-words.js';
import { useBench } from './use-bench.js';

/** The way of the air as a strip: pressure falls from section to section, for both setups; every section can be opened. */
const HEIGHT = 150;
const PAD = 14;
const programme = useProgramme();
const bench = useBench();
const show = useShow();
const svg = useTemplateRef<SVGSVGElement>('svg');
const box = useTemplateRef<HTMLElement>('box');
const width = useWidth(box);

const columns = computed(() => bench.columns.value);
const columnWidth = computed(() => width.value / Math.max(1, columns.value.length));
const lines = computed(() =>
  (['reference', 'candidate'] as const).flatMap((which) => {
    const setup = bench[which].value;
    const budget = bench.budgets.value[which];
    if (!setup || !budget || budget.sections.length === 0) return [];
    const style = programme.setupById.get(setup.id)!;
    return [{ which, setup, budget, colour: style.colour, dash: style.dash, steps: descent(columns.value, budget) }];
  }),
);
const deepest = computed(() => Math.max(500, ...lines.value.map(({ budget }) => budget.totalPa)) * 1.05);
const y = (pa: number) => PAD + (pa / deepest.value) * (HEIGHT - 2 * PAD);
const path = (steps: { fromPa: number; toPa: number }[]) =>
  steps
    .map(
      ({ fromPa, toPa }, i) =>
        `${i === 0 ? 'M' : 'L'}${i * columnWidth.value} ${y(fromPa)} L${(i + 0.3) * columnWidth.value} ${y(fromPa)} L${(i + 0.7) * columnWidth.value} ${y(toPa)} L${(i + 1) * columnWidth.value} ${y(toPa)}`,
    )
    .join(' ');
const unit = computed(() => show.value.units.pressure);
const digits = computed(() => digitsFor(fromSi(Math.max(1, ...lines.value.map(({ budget }) => budget.totalPa)), unit.value), 3));
const kPa = (pa: number | null) => (pa === null ? '–' : plain(fromSi(pa, unit.value), digits.value));
const totalText = ({ incomplete, totalPa }: Budget) => (incomplete.length > 0 ? 'incomplete' : `${kPa(totalPa)} ${unit.value}`);
const marker = (source: string) => ({ geometry: 'open', bench: 'full', car: 'square' })[source] ?? 'open';

function saveCsv(): void {
  const shown = (pa: number | null | undefined) => (pa == null ? null : fromSi(pa, unit.value));
  const rows = columns.value.flatMap((column, i) => lines.value.map((line) => ({ column, line, step: line.steps[i]! })));
  void saveTable('path.csv', [
    { header: 'section', values: rows.map(({ column }) => column.name) },
    { header: 'setup', values: rows.map(({ line }) => line.setup.id) },
    { header: 'source', values: rows.map(({ step }) => (step.section ? SOURCE_WORDS[step.section.section.source] : '')) },
    { header: `loss [${unit.value}]`, values: rows.map(({ step }) => shown(step.section?.dropPa)) },
    { header: `low [${unit.value}]`, values: rows.map(({ step }) => shown(step.section?.lowPa)) },
    { header: `high [${unit.value}]`, values: rows.map(({ step }) => shown(step.section?.highPa)) },
  ]);
}
</script>

<template>
  <ChartFrame
    name="path"
    title="The air’s way"
    :subtitle="`pressure below ambient, ${unit}; open marks are estimated, full ones from the flow bench, squares from the car`"
    @save-svg="svg && saveText('path.svg', 'image/svg+xml', svgText(svg))"
    @save-csv="saveCsv"
  >
    <template #tools>
      <SetupMark
        v-for="line in lines"
        :key="line.setup.id"
        :letter="line.setup.id"
        :colour="line.colour"
        :dash="line.dash"
        :name="totalText(line.budget)"
      />
    </template>
    <div ref="box" class="strip">
      <ol class="names" :style="{ gridTemplateColumns: `repeat(${columns.length}, minmax(0, 1fr))` }">
        <li v-for="column in columns" :key="column.id">
          <button
            type="button"
            :aria-pressed="bench.sectionId.value === column.id"
            @click="bench.openSection(bench.sectionId.value === column.id && !bench.instrument.value ? null : column.id)"
          >
            {{ column.name }}
          </button>
        </li>
      </ol>
      <svg
        ref="svg"
        :width="width"
        :height="HEIGHT"
        :viewBox="`0 0 ${width} ${HEIGHT}`"
        role="img"
        :aria-label="`Pressure along the air’s way: ${lines.map(({ setup, budget }) => `${setup.name}: ${totalText(budget)}`).join('; ')}`"
      >
        <g v-for="(column, i) in columns" :key="column.id">
          <rect
            v-if="bench.sectionId.value === column.id"
            :x="i * columnWidth"
            y="0"
            :width="columnWidth"
            :height="HEIGHT"
            class="selected"
          />
          <line v-if="i > 0" :x1="i * columnWidth" :x2="i * columnWidth" y1="0" :y2="HEIGHT" class="border" />
        </g>
        <line x1="0" :x2="width" :y1="y(0)" :y2="y(0)" class="ambient" />
        <g v-for="line in lines" :key="line.setup.id">
          <path :d="path(line.steps)" fill="none" :stroke="line.colour" stroke-width="2.4" :stroke-dasharray="dashArray(line.dash)" />
          <template v-for="(step, i) in line.steps" :key="columns[i]!.id">
            <template v-if="step.section">
              <rect
                v-if="marker(step.section.section.source) === 'square'"
                :x="(i + 0.5) * columnWidth - 5"
                :y="y((step.fromPa + step.toPa) / 2) - 5"
                width="10"
                height="10"
                :fill="line.colour"
              />
              <circle
                v-else
                :cx="(i + 0.5) * columnWidth"
                :cy="y((step.fromPa + step.toPa) / 2)"
                r="5"
                :stroke="line.colour"
                stroke-width="2"
                :fill="marker(step.section.section.source) === 'full' ? line.colour : 'var(--ground)'"
              />
            </template>
          </template>
        </g>
      </svg>
      <ol class="losses" :style="{ gridTemplateColumns: `repeat(${columns.length}, minmax(0, 1fr))` }">
        <li v-for="(column, i) in columns" :key="column.id">
          <p v-for="line in lines" :key="line.setup.id" :title="line.steps[i]!.section?.missing ?? ''">
            <template v-if="line.steps[i]!.section">
              <b :style="{ color: line.colour }">{{ line.setup.id }}</b>
              {{ line.steps[i]!.section!.missing ? 'missing' : kPa(line.steps[i]!.section!.dropPa) }}
              <span class="muted">{{ SOURCE_WORDS[line.steps[i]!.section!.section.source] }}</span>
            </template>
            <span v-else class="muted">{{ line.setup.id }} none</span>
          </p>
        </li>
      </ol>
    </div>
  </ChartFrame>
</template>

<style scoped>
.strip {
  overflow-x: auto;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
}
.names button {
  font: inherit;
  width: 100%;
  padding: 0.2rem 0.3rem;
  background: none;
  border: 0;
  border-bottom: 2px solid transparent;
  color: var(--ink);
  font-weight: 600;
  cursor: pointer;
  text-align: center;
}
.names button:hover {
  color: var(--green);
}
.names button[aria-pressed='true'] {
  border-bottom-color: var(--green);
}
.selected {
  fill: var(--green-soft);
  opacity: 0.5;
}
.border {
  stroke: var(--line);
  stroke-dasharray: 2 3;
}
.ambient {
  stroke: var(--neutral);
}
.losses li {
  text-align: center;
  font-variant-numeric: tabular-nums;
  font-size: 13px;
  padding: 0 0.2rem;
}
</style>
