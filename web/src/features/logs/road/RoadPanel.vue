<script setup lang="ts">
import { plain, roadPairText } from '@gezeit/core';
import Button from 'primevue/button';
import { computed } from 'vue';
import { useProgramme } from '../../../model/programme-store.js';
import { useSelection } from '../../../model/use-selection.js';
import { saveTable } from '../../../shared/save.js';
import SetupMark from '../../../shared/ui/SetupMark.vue';
import Term from '../../../shared/ui/Term.vue';
import RoadCaution from '../RoadCaution.vue';
import { useShow } from '../../../shared/units/use-show.js';

/** Runs on the road, gear by gear: how the intake air rose, what spark was left at the top, and what two setups have in common. */
const programme = useProgramme();
const selection = useSelection();
const show = useShow();

const road = computed(() => programme.view!.findings.road);
const gearText = (gear: number | null) => (gear === null ? 'not told' : `${gear}`);
const degrees = (value: number | null) => (value === null ? '–' : `${plain(value, 1)}°`);
const rows = computed(() =>
  road.value.runs.map((run, index) => ({
    ...run,
    key: `${run.pull} ${index}`,
    style: programme.setupById.get(run.setup)!,
    from: Math.round(run.fromRpm),
    to: Math.round(run.toRpm),
    lasts: plain(run.seconds, 1),
    start: show.value.temperature(run.startIntakeAirC),
    end: show.value.temperature(run.endIntakeAirC),
    rise: show.value.temperatureDifference(run.riseK),
    spark: degrees(run.sparkAtTopDeg),
    knock: degrees(run.knockAtTopDeg),
    power: run.wheelPower
      ? `≈ ${show.value.power(run.wheelPower.meanKW, 0)} (${show.value.power(run.wheelPower.low, 0)} to ${show.value.power(run.wheelPower.high, 0)})`
      : '–',
  })),
);
const hasPower = computed(() => road.value.runs.some(({ wheelPower }) => wheelPower !== null));
const isSelected = (pull: string) => pull === selection.pull.value;
const sentences = computed(() => road.value.pairs.map((pair) => roadPairText(pair, show.value.words)));
function save(): void {
  const { runs } = road.value;
  const { units } = show.value;
  const degreesOf = (celsius: number | null) => (celsius === null ? null : show.value.temperatureOf(celsius));
  const powerOf = (kW: number | undefined) => (kW === undefined ? null : show.value.powerOf(kW));
  void saveTable('road.csv', [
    { header: 'pull', values: runs.map(({ pull }) => pull) },
    { header: 'setup', values: runs.map(({ setup }) => setup) },
    { header: 'gear', values: runs.map(({ gear }) => gear) },
    { header: 'from [rpm]', values: runs.map(({ fromRpm }) => fromRpm) },
    { header: 'to [rpm]', values: runs.map(({ toRpm }) => toRpm) },
    { header: 'time [s]', values: runs.map(({ seconds }) => seconds) },
    { header: `intake air at the start [${units.temperature}]`, values: runs.map(({ startIntakeAirC }) => degreesOf(startIntakeAirC)) },
    { header: `intake air at the end [${units.temperature}]`, values: runs.map(({ endIntakeAirC }) => degreesOf(endIntakeAirC)) },
    { header: 'spark at the top [°]', values: runs.map(({ sparkAtTopDeg }) => sparkAtTopDeg) },
    { header: 'knock retard at the top [°]', values: runs.map(({ knockAtTopDeg }) => knockAtTopDeg) },
    { header: `estimated wheel power [${units.power}]`, values: runs.map(({ wheelPower }) => powerOf(wheelPower?.meanKW)) },
    { header: `low [${units.power}]`, values: runs.map(({ wheelPower }) => powerOf(wheelPower?.low)) },
    { header: `high [${units.power}]`, values: runs.map(({ wheelPower }) => powerOf(wheelPower?.high)) },
  ]);
}
</script>

<template>
  <div class="over">
    <h2>Road, gear by gear</h2>
    <span class="spacer" />
    <Button text size="small" label="CSV" aria-label="Save the runs as CSV" @click="save()" />
  </div>
  <RoadCaution />
  <p v-for="sentence in sentences" :key="sentence" class="small">{{ sentence }}</p>
  <div class="runs figures" tabindex="0" role="region" aria-label="Runs on the road">
    <table class="dense small">
      <thead>
        <tr>
          <th>Pull</th>
          <th>Setup</th>
          <th class="number">
            <Term what="By its own channel, else by the ratio of engine to road speed and the car’s ratios.">Gear</Term>
          </th>
          <th class="number">rpm</th>
          <th class="number">s</th>
          <th class="number">Intake air start, {{ show.units.temperature }}</th>
          <th class="number">end, {{ show.units.temperature }}</th>
          <th class="number">Rise, {{ show.differenceUnit }}</th>
          <th class="number">Spark at the top</th>
          <th class="number">Knock retard</th>
          <th v-if="hasPower" class="number">
            <Term
              what="Estimated from mass, drag, rolling and acceleration (formula k1), mean over the run’s engine speeds: what is not known of mass, drag, slope and wind (the assumptions on Verdict) is in the interval. It is no measurement."
              >Wheel power, {{ show.units.power }}, estimated</Term
            >
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.key" :class="{ selected: isSelected(row.pull) }">
          <td>
            <button type="button" class="pick" :aria-pressed="isSelected(row.pull)" @click="selection.pull.value = row.pull">
              {{ row.pull }}
            </button>
          </td>
          <td><SetupMark :letter="row.setup" :colour="row.style.colour" :dash="row.style.dash" /></td>
          <td class="number">{{ gearText(row.gear) }}</td>
          <td class="number">{{ row.from }} to {{ row.to }}</td>
          <td class="number">{{ row.lasts }}</td>
          <td class="number">{{ row.start }}</td>
          <td class="number">{{ row.end }}</td>
          <td class="number">{{ row.rise }}</td>
          <td class="number">{{ row.spark }}</td>
          <td class="number">{{ row.knock }}</td>
          <td v-if="hasPower" class="number">{{ row.power }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.over {
  display: flex;
  align-items: center;
  gap: 0.6rem;
}
.spacer {
  flex: 1;
}
p {
  margin: 0.2rem 0;
}
.runs {
  overflow: auto;
  max-height: 20rem;
}
.number {
  text-align: right;
  white-space: nowrap;
}
tr.selected {
  background: var(--green-soft);
}
.pick {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
}
</style>
