<script setup lang="ts">
import type { DriveFinding } from '@gezeit/contract';
import { courseWords, DRIVE_RULES, drivePairWords, plain, tied } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, useTemplateRef } from 'vue';
import { RouterLink } from 'vue-router';
import { useProgramme } from '../../../model/programme-store.js';
import { useSelection } from '../../../model/use-selection.js';
import PlotlyChart from '../../../shared/charts/PlotlyChart.vue';
import { useTheme } from '../../../shared/charts/theme-store.js';
import { saveTable } from '../../../shared/save.js';
import FailureNote from '../../../shared/ui/FailureNote.vue';
import SetupMark from '../../../shared/ui/SetupMark.vue';
import Term from '../../../shared/ui/Term.vue';
import { useShow } from '../../../shared/units/use-show.js';
import RoadCaution from '../RoadCaution.vue';
import { mapFigure, mapTable } from './drive-map.js';
import LapCut from './LapCut.vue';
import { lapRows, lapTable } from './lap-rows.js';
import { useDriveTrack } from './use-drive-track.js';

/** Laps on a track and long runs: where they went, lap by lap, what two setups differ by, and what drifts over the distance. */
const programme = useProgramme();
const selection = useSelection();
const show = useShow();
const themes = useTheme();

const found = computed(() => programme.view!.findings.drives);
const drive = computed<DriveFinding>(() => found.value.drives.find(({ pull }) => pull === selection.pull.value) ?? found.value.drives[0]!);
const log = computed(() => programme.view!.logs.find(({ file }) => file === drive.value.file) ?? null);
const { track, failure } = useDriveTrack(log);
const line = computed(() => programme.view!.bundle.programme.laps?.line ?? null);
const figure = computed(() => (track.value ? mapFigure(track.value, line.value, show.value, themes.tokens) : null));
const cut = useTemplateRef('cut');
const styleOf = (setup: string) => programme.setupById.get(setup)!;
const rows = computed(() => lapRows(drive.value, show.value));
const kilometres = (metres: number | null) => (metres === null ? '' : `, ${tied(plain(metres / 1000, metres < 10_000 ? 2 : 0), 'km')}`);

const pairs = computed(() => found.value.pairs.map((pair) => drivePairWords(pair, show.value.words)));
const courses = computed(() => drive.value.courses.map((course) => courseWords(course, drive.value.distanceM ?? 0, show.value.words)));
</script>

<template>
  <div class="over">
    <h2>Drives: laps and long runs</h2>
    <button
      v-for="entry in found.drives"
      :key="entry.pull"
      type="button"
      class="drive"
      :aria-pressed="entry.pull === drive.pull"
      @click="selection.pull.value = entry.pull"
    >
      <SetupMark :letter="entry.setup" :colour="styleOf(entry.setup).colour" :dash="styleOf(entry.setup).dash" /> {{ entry.pull }}
    </button>
    <span class="spacer" />
    <Button
      v-if="rows.length > 0"
      text
      size="small"
      label="CSV"
      aria-label="Save the laps as CSV"
      @click="saveTable('laps.csv', lapTable(drive, show))"
    />
  </div>
  <RoadCaution />
  <div v-for="pair in pairs" :key="pair.head" class="small pair">
    <b>{{ pair.head }}</b>
    <ul>
      <li v-for="text in pair.lines" :key="text">{{ text }}</li>
    </ul>
    <p class="muted">{{ pair.note }}</p>
  </div>
  <p class="small"><b>{{ drive.pull }}</b>: {{ plain(drive.seconds / 60, 1) }} min{{ kilometres(drive.distanceM) }}.</p>
  <div class="beside">
    <div class="left">
      <LapCut ref="cut" :key="drive.pull" :drive="drive" :track="track" />
      <div v-if="rows.length > 0" class="laps figures" tabindex="0" role="region" aria-label="Laps">
        <table class="dense small">
          <thead>
            <tr>
              <th class="number">Lap</th>
              <th class="number">s</th>
              <th class="number">km</th>
              <th class="number">
                <Term
                  :what="`Share of the lap’s time with the pedal (or throttle) over ${DRIVE_RULES.openPct} % or over ${100 * DRIVE_RULES.openShare} % of its most.`"
                  >Full throttle</Term
                >
              </th>
              <th class="number">Intake air start, {{ show.units.temperature }}</th>
              <th class="number">mean</th>
              <th class="number">most</th>
              <th class="number">above ambient, {{ show.differenceUnit }}</th>
              <th class="number">Coolant</th>
              <th class="number">Oil</th>
              <th class="number">Knock</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.number" :class="{ slow: !row.counts }">
              <td class="number">{{ row.number }}</td>
              <td class="number">{{ row.seconds }}<span v-if="!row.counts"> slow</span></td>
              <td v-for="(cell, i) in row.cells" :key="i" class="number">{{ cell }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="rows.some(({ counts }) => !counts)" class="small muted">
        Slow: over {{ DRIVE_RULES.slowLap }} times the drive’s usual lap, shown and not compared.
      </p>
      <div v-if="courses.length > 0" class="laps figures" tabindex="0" role="region" aria-label="Over the distance">
        <table class="dense small">
          <thead>
            <tr>
              <th>Over the distance</th>
              <th class="number">Mean (95 %)</th>
              <th class="number">Drift over these {{ plain((drive.distanceM ?? 0) / 1000, 0) }} km (95 %)</th>
              <th>Drift</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in courses" :key="row.quantity">
              <td>{{ row.words }}</td>
              <td class="number">{{ row.mean }}</td>
              <td class="number">{{ row.drift }}</td>
              <td>{{ row.says }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="courses.length > 0" class="small muted">
        Fault codes are a question of their own, with what was read:
        <RouterLink :to="{ name: 'question', params: { id: programme.view!.id } }">Question</RouterLink>.
      </p>
    </div>
    <div v-if="figure" class="map">
      <PlotlyChart
        name="track"
        title="Where it went"
        subtitle="click: a line across the track there cuts the laps"
        :data="figure.data"
        :layout="figure.layout"
        :height="360"
        :table="mapTable(track!, show)"
        @click-point="typeof $event === 'number' && cut?.putLine($event)"
      />
    </div>
  </div>
  <FailureNote v-if="failure" :failure="failure" />
</template>

<style scoped>
.over {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem 0.6rem;
}
.spacer {
  flex: 1;
}
.drive {
  font: inherit;
  color: inherit;
  background: none;
  border: 1px solid var(--neutral);
  border-radius: 3px;
  padding: 0.1rem 0.5rem;
  cursor: pointer;
}
.drive[aria-pressed='true'] {
  border-color: var(--green);
  background: var(--green-soft);
}
p {
  margin: 0.2rem 0;
}
.pair ul {
  margin: 0.1rem 0;
  padding-left: 1.1rem;
}
.beside {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 1rem;
}
@media (max-width: 60rem) {
  .beside {
    grid-template-columns: minmax(0, 1fr);
  }
}
.laps {
  overflow: auto;
  max-height: 22rem;
}
.number {
  text-align: right;
  white-space: nowrap;
}
.slow {
  color: var(--muted);
}
</style>
