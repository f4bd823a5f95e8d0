<script setup lang="ts">
import type { PullHeat } from '@gezeit/contract';
import { effectivenessText, equalStartText, mean, plain, tied } from '@gezeit/core';
import { computed } from 'vue';
import { useProgramme } from '../../../model/programme-store.js';
import { useSelection } from '../../../model/use-selection.js';
import PlotlyChart from '../../../shared/charts/PlotlyChart.vue';
import { useTheme } from '../../../shared/charts/theme-store.js';
import SetupMark from '../../../shared/ui/SetupMark.vue';
import Term from '../../../shared/ui/Term.vue';
import { useShow } from '../../../shared/units/use-show.js';
import { heatFigure, heatTable } from './heat-figure.js';

/** What the pulls did to their intake air: start, peak, rise, how it fell back, what the cooler took, and the same from an equal start. */
const programme = useProgramme();
const selection = useSelection();
const show = useShow();
const themes = useTheme();

const findings = computed(() => programme.view!.findings);
const pulls = computed(() => findings.value.pulls);
const figure = computed(() =>
  heatFigure({
    pulls: pulls.value,
    order: programme.view!.tide.pulls,
    setups: programme.setupById,
    selected: selection.pull.value,
    show: show.value,
    tokens: themes.tokens,
  }),
);
const table = computed(() => heatTable({ pulls: pulls.value, show: show.value }));

/** Means of a setup's used pulls; null where one has no figure. */
const meanOf = (heats: readonly PullHeat[], of: (heat: PullHeat) => number | null) => {
  const known = heats.map(of).filter((value) => value !== null);
  return known.length === 0 ? null : mean(known);
};
const kelvin = (value: number | null, digits = 1) => (value === null ? '–' : show.value.temperatureDifference(value, digits));
const rows = computed(() =>
  [...programme.setupById.values()].flatMap(({ setup, colour, dash }) => {
    const heats = pulls.value.flatMap(({ setup: own, status, heat }) => (own === setup.id && status === 'used' && heat ? [heat] : []));
    if (heats.length === 0) return [];
    const cooling = findings.value.chargeCooling.find((entry) => entry.setup === setup.id);
    const recoveries = pulls.value.flatMap(({ setup: own, heat }) => (own === setup.id && heat?.recovery ? [heat.recovery] : []));
    return [
      {
        id: setup.id,
        name: setup.name,
        colour,
        dash,
        start: kelvin(meanOf(heats, ({ startAboveAmbientK }) => startAboveAmbientK)),
        peak: kelvin(meanOf(heats, ({ peakAboveAmbientK }) => peakAboveAmbientK)),
        rise: kelvin(meanOf(heats, ({ riseK }) => riseK)),
        perS: kelvin(
          meanOf(heats, ({ risePerS }) => risePerS),
          2,
        ),
        perKJ: kelvin(
          scaled(
            meanOf(heats, ({ risePerWheelKJ }) => risePerWheelKJ),
            100,
          ),
          2,
        ),
        recovery:
          recoveries.length === 0
            ? '–'
            : `${plain(mean(recoveries.map(({ tauS }) => tauS)), 0)} (${plain(Math.min(...recoveries.map(({ lowS }) => lowS)), 0)} to ${plain(Math.max(...recoveries.map(({ highS }) => highS)), 0)})`,
        cooler: cooling ? effectivenessText({ ...cooling, value: cooling.effectiveness }) : null,
        drop: cooling?.pressureDropKPa == null ? '–' : show.value.pressure(cooling.pressureDropKPa, 3),
      },
    ];
  }),
);
const scaled = (value: number | null, by: number) => (value === null ? null : value * by);
const hasRecovery = computed(() => rows.value.some(({ recovery }) => recovery !== '–'));
const hasCooler = computed(() => rows.value.some(({ cooler }) => cooler !== null));
/** From the same start, pair by pair. */
const equal = computed(() => findings.value.comparisons.flatMap((comparison) => equalStartText(comparison, show.value.words) ?? []));
const select = (id: unknown) => {
  if (typeof id === 'string') selection.pull.value = id;
};
</script>

<template>
  <div class="heat">
    <PlotlyChart
      name="heat"
      title="Heat of the pulls"
      subtitle="intake air above ambient: hollow at the start, filled at the end"
      :data="figure.data"
      :layout="figure.layout"
      :height="240"
      :table="table"
      @click-point="select"
    />
    <div class="means">
      <table class="dense small figures" aria-label="Heat by setup">
        <thead>
          <tr>
            <th>Setup</th>
            <th class="number">Start, {{ show.differenceUnit }}</th>
            <th class="number">Peak, {{ show.differenceUnit }}</th>
            <th class="number">Rise, {{ show.differenceUnit }}</th>
            <th class="number">{{ tied('Rise,', show.differenceUnit) }}/s</th>
            <th class="number">per 100&nbsp;kJ</th>
            <th v-if="hasRecovery" class="number">
              <Term
                what="One exponential through the temperatures from the end of a pull until the next one; two masses cool, so it is an approximation, and its interval says how good a one. In brackets the least and the most of the setup’s pulls, at 95 %."
                >Recovery, s</Term
              >
            </th>
            <template v-if="hasCooler">
              <th class="number">
                <Term
                  what="(compressor out − cooler out) / (compressor out − cold side), over the band; the accuracy of the three sensors is in the interval."
                  >Effectiveness</Term
                >
              </th>
              <th class="number">Drop, {{ show.units.pressure }}</th>
            </template>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.id">
            <td><SetupMark :letter="row.id" :colour="row.colour" :dash="row.dash" /></td>
            <td class="number">{{ row.start }}</td>
            <td class="number">{{ row.peak }}</td>
            <td class="number">{{ row.rise }}</td>
            <td class="number">{{ row.perS }}</td>
            <td class="number">{{ row.perKJ }}</td>
            <td v-if="hasRecovery" class="number">{{ row.recovery }}</td>
            <template v-if="hasCooler">
              <td class="number">{{ row.cooler ?? '–' }}</td>
              <td class="number">{{ row.drop }}</td>
            </template>
          </tr>
        </tbody>
      </table>
      <p v-for="sentence in equal" :key="sentence" class="small">{{ sentence }}</p>
      <p class="small muted">
        Start and peak above ambient; means of the used pulls. 100 kJ are of work where power is measured.
        <template v-if="!hasRecovery"> How fast it falls back is not told: too little is logged between the pulls.</template>
      </p>
    </div>
  </div>
</template>

<style scoped>
.heat {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 1.2rem;
  align-items: start;
}
.means {
  overflow-x: auto;
}
.number {
  text-align: right;
  white-space: nowrap;
}
p {
  margin: 0.4rem 0 0;
}
@media (max-width: 1000px) {
  .heat {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
