<script setup lang="ts">
import { endsOrOnce, fromSi, gainOfLessRestriction, isPossibleAir, mean, plain, stepText, tied } from '@gezeit/core';
import { computed, ref } from 'vue';
import { useProgramme } from '../../../model/programme-store.js';
import { useCurves } from '../../../model/use-curves.js';
import PlotlyChart from '../../../shared/charts/PlotlyChart.vue';
import { useTheme } from '../../../shared/charts/theme-store.js';
import ChoiceInput from '../../../shared/form/ChoiceInput.vue';
import SetupMark from '../../../shared/ui/SetupMark.vue';
import Term from '../../../shared/ui/Term.vue';
import { useShow } from '../../../shared/units/use-show.js';
import { benchLaws, restrictionFigure, restrictionTable } from './restriction-figure.js';

/** Where the intake resists: drop over flow of a section in every setup, its law, its steps, and what there would be to gain. */
const programme = useProgramme();
useCurves();
const show = useShow();
const themes = useTheme();

const findings = computed(() => programme.view!.findings.restriction);
const curves = computed(() => programme.curves?.sections ?? { points: [], laws: [] });
const sections = computed(() => [...new Set(findings.value.map(({ section }) => section))]);
const chosen = ref<string | null>(null);
const section = computed(() => (chosen.value !== null && sections.value.includes(chosen.value) ? chosen.value : (sections.value[0] ?? '')));
const choices = computed(() => Object.fromEntries(sections.value.map((name) => [name, name === '' ? 'a section without a name' : name])));
const unit = computed(() => show.value.units.pressure);
const own = computed(() => findings.value.filter((entry) => entry.section === section.value));
const mostKgS = computed(() =>
  curves.value.points
    .filter((entry) => entry.section === section.value)
    .flatMap(({ flowKgS }) => flowKgS)
    .reduce((a, b) => Math.max(a, b), 0),
);
const bench = computed(() => benchLaws(section.value, programme.view!.bundle.setups, mostKgS.value));
const input = computed(() => ({
  section: section.value,
  curves: curves.value,
  findings: findings.value,
  setups: programme.setupById,
  unit: unit.value,
  tokens: themes.tokens,
}));
const figure = computed(() => restrictionFigure(input.value, bench.value));
const table = computed(() => restrictionTable(input.value));
const ambientPa = computed(() => {
  const known = programme
    .view!.bundle.pulls.flatMap(({ ambient }) => (ambient?.pressureKPa == null ? [] : [ambient.pressureKPa * 1000]))
    .filter((pressurePa) => isPossibleAir('ambientPressure', pressurePa));
  return known.length > 0 ? mean(known) : 101_325;
});
const pressure = (kPa: number) => plain(fromSi(kPa * 1000, unit.value), fromSi(1000, unit.value) > 20 ? 0 : 2);
const rows = computed(() =>
  own.value.map((entry) => {
    const { setup, effectiveAreaCm2, dropKPa, laminarShare, atFlowKgS } = entry;
    const gain = gainOfLessRestriction(ambientPa.value, dropKPa * 1000, 0).firstOrder;
    return {
      ...entry,
      style: programme.setupById.get(setup)!,
      area: effectiveAreaCm2 === null ? 'laminar throughout' : plain(effectiveAreaCm2, 1),
      areaEnds: effectiveAreaCm2 === null ? '' : endsOrOnce(entry.low, entry.high, (value) => plain(value, 1)),
      drop: `${entry.atMost ? '≤ ' : ''}${pressure(dropKPa)}`,
      dropEnds: endsOrOnce(entry.dropLow, entry.dropHigh, pressure),
      laminar: tied(plain(100 * laminarShare, 0), '%'),
      flow: plain(atFlowKgS * 1000, 0),
      gain: tied(plain(100 * gain, 1), '%'),
    };
  }),
);
const steps = computed(() => own.value.flatMap((entry) => stepText(entry, show.value.words) ?? []));
/** The air at which drops are stated. */
const stated = computed(() => `${show.value.words.temperature(25)} and ${show.value.words.pressure(100_000)}`);
const isMade = computed(() => own.value.some(({ flowFrom }) => flowFrom === 'speed-density'));
const isBound = computed(() => own.value.some(({ atMost }) => atMost));
const isBoosted = computed(() => programme.view!.bundle.vehicle.aspiration === 'turbo');
const benchWords = computed(() =>
  bench.value.map(({ setup, source }) => `${setup} ${source === 'bench' ? 'on the flow bench' : 'estimated from its geometry'}`).join(', '),
);
</script>

<template>
  <div class="restriction">
    <PlotlyChart
      name="restriction"
      title="Restriction"
      :subtitle="`pulls and their law${bench.length > 0 ? '; dotted: the bench' : ''}`"
      :data="figure.data"
      :layout="figure.layout"
      :height="260"
      :table="table"
    >
      <template #tools>
        <ChoiceInput
          v-if="sections.length > 1"
          :model-value="section"
          :choices="choices"
          label="Section"
          @update:model-value="chosen = $event"
        />
      </template>
    </PlotlyChart>
    <div class="laws">
      <table class="dense small figures" aria-label="Restriction by setup">
        <thead>
          <tr>
            <th>Setup</th>
            <th class="number">
              <Term
                what="Of the turbulent part of the law: Δp = a·ṁ + b·ṁ²/ρ, b = 1/(2A²). From leaving out whole pulls, the accuracy of the sensors in it."
                >Area, cm²</Term
              >
            </th>
            <th class="number">95&nbsp;%</th>
            <th class="number">Drop, {{ unit }}</th>
            <th class="number">95&nbsp;%</th>
            <th class="number">at g/s</th>
            <th class="number">
              <Term what="Share of the drop that goes with the flow and not with its square, as through a filter’s medium.">Laminar</Term>
            </th>
            <th class="number">
              <Term
                :what="
                  isBoosted
                    ? 'With the wastegate at its end stop, as the inlet pressure. While boost is held only the cooler charge gains, far less: see the bench.'
                    : 'Power as the absolute inlet pressure, to first order; at most 1.35 times that.'
                "
                >{{ isBoosted ? 'At most, if nil' : 'If nil' }}</Term
              >
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.setup">
            <td><SetupMark :letter="row.setup" :colour="row.style.colour" :dash="row.style.dash" /></td>
            <td class="number">{{ row.area }}</td>
            <td class="muted">{{ row.areaEnds }}</td>
            <td class="number">{{ row.drop }}</td>
            <td class="muted">{{ row.dropEnds }}</td>
            <td class="number">{{ row.flow }}</td>
            <td class="number">{{ row.laminar }}</td>
            <td class="number">{{ row.gain }}</td>
          </tr>
        </tbody>
      </table>
      <p v-for="sentence in steps" :key="sentence" class="small">{{ sentence }}</p>
      <p v-if="isMade" class="small">
        No air meter is logged: the flow is made of engine speed and the charge in the manifold, and the intervals are as wide as that is
        uncertain.
      </p>
      <p v-if="isBound" class="small">Ambient less manifold pressure is more than the intake’s own drop: throttle and port are in it.</p>
      <p v-if="benchWords" class="small muted">Dotted: {{ benchWords }}.</p>
      <p class="small muted">Drops at {{ stated }}, at the reference’s mean flow in the band.</p>
    </div>
  </div>
</template>

<style scoped>
.restriction {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 1.2rem;
  align-items: start;
}
.laws {
  overflow-x: auto;
}
.number,
td.muted {
  text-align: right;
  white-space: nowrap;
}
p {
  margin: 0.4rem 0 0;
}
@media (max-width: 1000px) {
  .restriction {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
