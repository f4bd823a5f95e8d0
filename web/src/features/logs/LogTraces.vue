<script setup lang="ts">
import type { LogView, PullDetail, PullFinding, Quantity } from '@gezeit/contract';
import MultiSelect from 'primevue/multiselect';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { ApiFailure } from '../../shared/api/client.js';
import { fetchTraces, type TraceSamples } from '../../shared/api/traces.js';
import { useTheme } from '../../shared/charts/theme-store.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import PlotlyChart from '../../shared/charts/PlotlyChart.vue';
import { drawn } from '../../shared/units/show.js';
import { useShow } from '../../shared/units/use-show.js';
import { columnUnit, panelsOf, traceFigure, windowOn } from './trace-figure.js';

/** Traces of one log in time, with the pull's full-throttle window drawn in. */
const props = defineProps<{ log: LogView; finding?: PullFinding; detail?: PullDetail }>();

const FIRST_SHOWN: Quantity[] = [
  'engineSpeed',
  'power',
  'throttle',
  'intakeAirTemperature',
  'pressureDrop',
  'compressorOutTemperature',
  'coolerOutTemperature',
];
const POINTS = 700;
const show = useShow();
const themes = useTheme();
const options = computed(() => props.log.columns.filter(({ position }) => position > 0));
const chosen = ref<string[]>(firstChoice());
const samples = shallowRef<Map<string, TraceSamples>>(new Map());
const failure = shallowRef<ApiFailure | null>(null);
const loading = ref(false);
let fetching: AbortController | null = null;

function firstChoice(): string[] {
  const known = FIRST_SHOWN.flatMap((quantity) => options.value.filter((column) => column.quantity === quantity).slice(0, 2));
  return known.slice(0, 4).map(({ id }) => id);
}

watch(
  chosen,
  async (ids) => {
    fetching?.abort();
    const controller = (fetching = new AbortController());
    failure.value = null;
    if (ids.length === 0) {
      samples.value = new Map();
      return;
    }
    loading.value = true;
    try {
      const fetched = await fetchTraces(props.log.id, ids, POINTS, controller.signal);
      if (!controller.signal.aborted) samples.value = fetched;
    } catch (error) {
      if (!controller.signal.aborted)
        failure.value = error instanceof ApiFailure ? error : new ApiFailure('The traces could not be read.', 'Reload the page.');
    } finally {
      if (!controller.signal.aborted) loading.value = false;
    }
  },
  { immediate: true },
);
onBeforeUnmount(() => fetching?.abort());

const shown = computed(() =>
  chosen.value.map((id) => options.value.find((column) => column.id === id)!).filter(({ id }) => samples.value.has(id)),
);
const panels = computed(() => panelsOf(shown.value, show.value));
const window = computed(() => windowOn(props.log, props.finding, props.detail));
const figure = computed(() => traceFigure(panels.value, samples.value, window.value, show.value, themes.tokens));
const table = computed(() =>
  shown.value.flatMap((column) => {
    const trace = samples.value.get(column.id)!;
    const unit = columnUnit(column, show.value);
    return [
      { header: `time of ${column.name} [s]`, values: Array.from(trace.timeS) },
      {
        header: `${column.name} [${unit ?? column.unitText ?? 'as written'}]`,
        values: unit ? drawn(trace.values, unit) : Array.from(trace.values),
      },
    ];
  }),
);
</script>

<template>
  <FailureNote v-if="failure" :failure="failure" />
  <PlotlyChart
    name="traces"
    title="Traces"
    :subtitle="window ? 'shaded: the pull’s full-throttle window' : 'no full-throttle window was found'"
    :data="figure.data"
    :layout="figure.layout"
    :height="316"
    :table="table"
  >
    <template #tools>
      <MultiSelect
        v-model="chosen"
        :options="options"
        option-label="name"
        option-value="id"
        :max-selected-labels="0"
        :selected-items-label="`${chosen.length} channels`"
        placeholder="Choose channels"
        size="small"
        :selection-limit="8"
        :loading="loading"
        aria-label="Channels that are drawn"
      />
    </template>
  </PlotlyChart>
</template>
