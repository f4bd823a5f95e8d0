<script setup lang="ts">
import Button from 'primevue/button';
import { computed, nextTick, watch } from 'vue';
import SetupMark from '../../shared/ui/SetupMark.vue';
import Term from '../../shared/ui/Term.vue';
import { useShow } from '../../shared/units/use-show.js';
import { useAmendment } from '../../model/amendment-store.js';
import { useExclusion } from '../../model/exclusion-store.js';
import { useProgramme } from '../../model/programme-store.js';
import { useSelection } from '../../model/use-selection.js';
import { AMENDED_WORDS, FLAG_WORDS } from '@gezeit/core';
import { pullReasonWord } from '@gezeit/core';

/** Every pull with its figures and flags; a row selects its pull everywhere. */
const programme = useProgramme();
const selection = useSelection();
const exclusion = useExclusion();
const amendment = useAmendment();
const show = useShow();

const rows = computed(() => {
  const view = programme.view!;
  const details = new Map(view.pulls.map((detail) => [detail.id, detail]));
  const stated = new Map(view.bundle.pulls.map((pull) => [pull.id, pull]));
  return view.findings.pulls.map((finding) => {
    const pull = stated.get(finding.id)!;
    const detail = details.get(finding.id);
    const kind = pull.kind === 'measured' ? null : pull.kind;
    const byHand = typeof pull.excluded === 'string' ? pull.excluded : null;
    return {
      ...finding,
      kind,
      byHand,
      forced: pull.excluded === false,
      flagDetails: detail?.flags ?? [],
      // What leaves it out beside flags and a hand: flags stand as such already.
      why: finding.reasons.filter((reason) => reason !== kind && reason !== byHand && !isFlag(reason)).map(pullReasonWord),
      amended: (pull.amended ?? []).map(({ what, by, why: reason }) => `${AMENDED_WORDS[what] ?? what}, by ${by}: ${reason}`).join('; '),
      badChance: detail?.badChance ?? null,
      style: programme.setupById.get(finding.setup)!,
    };
  });
});

const isFlag = (reason: string) => reason in FLAG_WORDS;

watch(selection.pull, async (id) => {
  await nextTick();
  if (id) document.querySelector(`[data-row="${CSS.escape(id)}"]`)?.scrollIntoView({ block: 'nearest' });
});
</script>

<template>
  <div class="pull-table figures" tabindex="0" role="region" aria-label="Pulls with their figures and flags">
    <table class="dense">
      <thead>
        <tr>
          <th>Pull</th>
          <th>Setup</th>
          <th class="number">
            <Term what="Mean over the band, every engine speed counting alike, corrected as the programme says.">Mean</Term>,
            {{ show.units.power }}
          </th>
          <th class="number">Peak, {{ show.units.power }}</th>
          <th class="number">at rpm</th>
          <th class="number"><Term what="Intake air just before full throttle.">Start</Term>, {{ show.units.temperature }}</th>
          <th class="number"><Term what="Intake air at the end of the sweep minus at its start.">Rise</Term>, {{ show.differenceUnit }}</th>
          <th>Flags and reasons</th>
          <th><span class="visually-hidden">Leave out or take back</span></th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.id"
          :data-row="row.id"
          :class="{ selected: row.id === selection.pull.value, out: row.status === 'excluded' }"
          @click="selection.pull.value = row.id"
        >
          <td>
            <button type="button" class="pick" :aria-pressed="row.id === selection.pull.value" @click.stop="selection.pull.value = row.id">
              {{ row.id }}
            </button>
          </td>
          <td><SetupMark :letter="row.setup" :colour="row.style.colour" :dash="row.style.dash" /></td>
          <td class="number">{{ show.power(row.meanPowerKW) }}</td>
          <td class="number">{{ show.power(row.peakPowerKW) }}</td>
          <td class="number">{{ row.peakPowerRpm === null ? '–' : Math.round(row.peakPowerRpm) }}</td>
          <td class="number">{{ show.temperature(row.startIntakeAirC) }}</td>
          <td class="number">{{ show.temperatureDifference(row.intakeAirRiseK) }}</td>
          <td>
            <div class="flags">
              <span v-if="row.kind" class="muted">{{ row.kind }}</span>
              <span v-for="why in row.why" :key="why" class="flag leaves-out">left out: {{ why }}</span>
              <span v-if="row.byHand" class="flag leaves-out">left out: {{ row.byHand }}</span>
              <span v-if="row.forced" class="flag">used in spite of the rules</span>
              <Term
                v-for="flag in row.flagDetails"
                :key="flag.flag"
                class="flag"
                :class="{ 'leaves-out': flag.leavesOut }"
                :what="flag.detail"
                >{{ flag.leavesOut ? 'left out: ' : '' }}{{ FLAG_WORDS[flag.flag] }}</Term
              >
              <Term v-if="row.amended" class="flag" :what="row.amended">corrected</Term>
              <Term v-for="warning in row.warnings" :key="warning" class="flag warning" :what="warning">note</Term>
              <Term
                v-if="(row.badChance ?? 0) >= 0.5"
                class="flag"
                what="The judgement finds this pull out of line with the others; it is already weighed down: do not delete it."
                >probably bad ({{ Math.round(100 * row.badChance!) }}&nbsp;%)</Term
              >
            </div>
          </td>
          <td class="act">
            <Button text size="small" icon="pi pi-pencil" :aria-label="`Correct pull ${row.id}`" @click.stop="amendment.ask(row.id)" />
            <Button
              v-if="!row.kind"
              text
              size="small"
              :icon="row.status === 'used' ? 'pi pi-times' : 'pi pi-replay'"
              :aria-label="row.status === 'used' ? `Leave pull ${row.id} out` : `Take pull ${row.id} back`"
              @click.stop="exclusion.ask(row.id)"
            />
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.pull-table {
  overflow: auto;
  max-height: 34rem;
}
thead th {
  position: sticky;
  top: 0;
  background: var(--ground);
  z-index: 2;
}
tbody tr {
  cursor: pointer;
}
tbody tr:hover {
  background: var(--surface);
}
tr.selected {
  background: var(--green-soft);
}
tr.out td.number {
  color: var(--muted);
}
.pick {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
}
.flags {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 0.7rem;
}
.leaves-out {
  font-weight: 600;
}
.act {
  padding: 0 !important;
  text-align: right;
}
.act :deep(button) {
  padding: 0 0.3rem;
  height: 1.6rem;
}
</style>
