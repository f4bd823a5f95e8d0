<script setup lang="ts">
import type { BenchInput } from '@gezeit/contract';
import { assumptionsOf, evidenceFrom, FORMULA_TEXTS, measure, type Instrument } from '@gezeit/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, shallowRef, toRef } from 'vue';
import { api, type ApiFailure } from '../../shared/api/client.js';
import { setupStyle } from '../../shared/charts/setup-colours.js';
import { useTheme } from '../../shared/charts/theme-store.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import PlotlyChart from '../../shared/charts/PlotlyChart.vue';
import { useShow } from '../../shared/units/use-show.js';
import { useUnits } from '../../shared/units/units-store.js';
import { useProgramme } from '../../model/programme-store.js';
import { useCurves } from '../../model/use-curves.js';
import { benchFigure } from '../../shared/charts/bench-figure.js';
import { useBenchInputs } from './bench-inputs-store.js';
import FigureTable from './FigureTable.vue';
import InstrumentFields from './InstrumentFields.vue';
import { useBench } from './use-bench.js';
import { useSweep } from './use-sweep.js';

/** One instrument: what it takes, what it says at once, what it is built on, and the keeping of its result. */
const props = defineProps<{ instrument: Instrument }>();
const programme = useProgramme();
useCurves();
const bench = useBench();
const store = useBenchInputs();
const themes = useTheme();
const units = useUnits();
const show = useShow();
const cautions = computed(() => props.instrument.cautions?.(show.value.words) ?? []);
const inputs = computed(() => store.of(props.instrument.id));
const result = computed(() => measure(props.instrument, inputs.value, show.value.words));
const reading = computed(() => result.value.reading);
const { charts: slow, busy } = useSweep(toRef(props, 'instrument'), inputs);
const colours = computed(() => [0, 1, 2, 3, 4].map((index) => setupStyle(index, themes.theme).colour));
const figures = computed(() =>
  [...(reading.value?.charts ?? []), ...(reading.value ? slow.value : [])].map((chart) => ({
    chart,
    ...benchFigure(chart, themes.tokens, units.chosen, colours.value),
  })),
);
const basisOpen = ref(false);
const assumptions = computed(() => assumptionsOf(props.instrument, inputs.value, show.value.words));
const set = (name: string, value: BenchInput) => store.set(props.instrument.id, { [name]: value });

/** The logged air mass flow of the first setup, where its pulls have it. */
const loggedFlow = computed(() => {
  if (props.instrument.id !== 'air-demand' || inputs.value['method'] !== 'logged') return [];
  const curve = programme.curves?.setups.find(({ setup }) => setup === bench.reference.value?.id);
  return (curve?.engineSpeedRpm ?? []).flatMap((engineSpeed, i) => {
    const airMassFlow = curve!.airMassFlowKgS[i];
    return airMassFlow && engineSpeed % 250 === 0 ? [{ engineSpeed, airMassFlow: Number(airMassFlow.toPrecision(5)) }] : [];
  });
});

const note = ref('');
const failure = shallowRef<ApiFailure | null>(null);
const kept = ref(false);
async function keep(): Promise<void> {
  await store.store();
  const id = `${props.instrument.id}-${Date.now().toString(36)}`;
  const section = bench.column.value?.name ?? null;
  const evidence = evidenceFrom(props.instrument, JSON.parse(JSON.stringify(inputs.value)) as typeof inputs.value, {
    id,
    note: note.value.trim(),
    setup: null,
    section,
  });
  failure.value = await programme.change((programmeId) => api.keepEvidence(programmeId, evidence));
  if (failure.value) return;
  note.value = '';
  kept.value = true;
}
const noteChanged = () => (kept.value = false);
</script>

<template>
  <div class="panel">
    <h2>{{ instrument.title }}</h2>
    <p class="muted">{{ instrument.question }}</p>
    <ul v-if="cautions.length > 0" class="cautions" aria-label="Cautions">
      <li v-for="caution in cautions" :key="caution">{{ caution }}</li>
    </ul>
    <div class="body" :class="{ wide: instrument.fields.some(({ kind }) => kind === 'table') }">
      <Button
        v-if="loggedFlow.length"
        class="from-pulls"
        size="small"
        outlined
        :label="`Take the air flow that the pulls of ${bench.reference.value?.id} logged`"
        @click="set('logged', loggedFlow)"
      />
      <InstrumentFields :instrument="instrument" :inputs="inputs" :problems="result.problems" @set="set" />
      <div class="result" aria-live="polite">
        <template v-if="reading">
          <p class="sentence">{{ reading.sentence }}</p>
          <FigureTable :figures="reading.figures" :rows="reading.rows ?? []" />
          <ul v-if="reading.warnings.length || result.doubts.length" class="warnings">
            <li v-for="warning in [...reading.warnings, ...result.doubts]" :key="warning">{{ warning }}</li>
          </ul>
        </template>
        <ul v-else class="problems" role="alert">
          <li v-for="problem in result.problems" :key="problem.message">{{ problem.message }}</li>
        </ul>
        <p v-if="busy && slow.length === 0" class="muted" aria-busy="true">Sweeping…</p>
        <PlotlyChart
          v-for="figure in figures"
          :key="figure.chart.name"
          :name="figure.chart.name"
          :title="figure.chart.title"
          :subtitle="figure.chart.subtitle"
          :data="figure.data"
          :layout="figure.layout"
          :height="270"
          :table="figure.table"
        />
        <form v-if="reading" class="keep" @submit.prevent="keep">
          <InputText
            v-model="note"
            class="note"
            aria-label="Note to keep with the result"
            placeholder="note: how, with what, by whom"
            autocomplete="off"
            maxlength="500"
            @update:model-value="noteChanged"
          />
          <Button type="submit" size="small" icon="pi pi-bookmark" label="Keep as evidence" :loading="programme.busy" />
          <span v-if="kept" class="kept" role="status">kept</span>
        </form>
        <FailureNote v-if="failure" :failure="failure" />
        <button type="button" class="basis-button" :aria-expanded="basisOpen" @click="basisOpen = !basisOpen">
          {{ basisOpen ? 'Hide what it is built on' : 'What it is built on' }}
        </button>
        <div v-if="basisOpen" class="basis">
          <table class="dense">
            <thead>
              <tr>
                <th>Formula</th>
                <th>Source</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="name in instrument.formulas" :key="name">
                <td>{{ FORMULA_TEXTS[name].text }}</td>
                <td class="muted">{{ FORMULA_TEXTS[name].source }}</td>
              </tr>
            </tbody>
          </table>
          <table v-if="assumptions.length" class="dense">
            <thead>
              <tr>
                <th>Assumption, to be changed above</th>
                <th class="number">Now</th>
                <th>Usual range</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="assumption in assumptions" :key="assumption.name">
                <td>{{ assumption.name }}</td>
                <td class="number">{{ assumption.value }}</td>
                <td class="muted">{{ assumption.range }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.body {
  display: grid;
  grid-template-columns: minmax(17rem, 0.8fr) minmax(0, 1fr);
  gap: 1.4rem;
  margin-top: 0.4rem;
}
.body.wide {
  grid-template-columns: minmax(0, 1fr);
}
.from-pulls {
  grid-column: 1 / -1;
  justify-self: start;
}
.result {
  min-width: 0;
}
.sentence {
  font-size: 1.12rem;
  font-weight: 600;
  margin-bottom: 0.4rem;
}
.cautions {
  border-left: 3px solid var(--brick);
  padding: 0.1rem 0 0.1rem 1.6rem;
  margin: 0.4rem 0;
}
.warnings,
.problems {
  padding-left: 1.1rem;
  margin: 0.4rem 0;
}
.warnings li::marker {
  content: '! ';
  font-weight: 700;
}
.problems {
  color: var(--brick);
}
.keep {
  display: flex;
  gap: 0.4rem;
  align-items: center;
  margin-top: 0.5rem;
}
.note {
  flex: 1;
  min-width: 0;
}
.kept {
  color: var(--green);
  font-weight: 600;
}
.basis-button {
  font: inherit;
  color: var(--green);
  background: none;
  border: 0;
  padding: 0.3rem 0;
  cursor: pointer;
  text-decoration: underline dotted;
}
@media (max-width: 800px) {
  .body {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
