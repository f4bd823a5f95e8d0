<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import SetupMark from '../../shared/ui/SetupMark.vue';
import { useShow } from '../../shared/units/use-show.js';
import type { Cause } from '@gezeit/contract';
import { AMENDED_WORDS, CAUSE_WORDS, FLAG_WORDS, pullReasonWord, signed, tied } from '@gezeit/core';
import { useAmendment } from '../../model/amendment-store.js';
import { useExclusion } from '../../model/exclusion-store.js';
import { useProgramme } from '../../model/programme-store.js';
import { useSelection } from '../../model/use-selection.js';

/** The selected pull: its figures, flags, and leaving it out. */
const programme = useProgramme();
const selection = useSelection();
const exclusion = useExclusion();
const amendment = useAmendment();
const route = useRoute();
const show = useShow();
const finding = computed(() => programme.view!.findings.pulls.find(({ id }) => id === selection.pull.value));
const pull = computed(() => programme.view!.bundle.pulls.find(({ id }) => id === selection.pull.value));
const detail = computed(() => programme.view!.pulls.find(({ id }) => id === selection.pull.value));
/** The pull on its way to the number, in the comparison that is shown. */
const levelled = computed(() => selection.comparison.value?.levelling?.pulls.find(({ pull: id }) => id === selection.pull.value) ?? null);
const takenText = computed(() => {
  const entry = levelled.value;
  if (!entry || entry.levelledPct === null) return null;
  const taken = Object.entries(entry.takenPct).map(([cause, pct]) => `${CAUSE_WORDS[cause as Cause].label} ${tied(signed(pct, 2), '%')}`);
  return `As run ${tied(signed(entry.asRunPct, 2), '%')} of the reference; taken out: ${taken.join(', ')}; levelled ${tied(signed(entry.levelledPct, 2), '%')}.`;
});
const style = computed(() => programme.setupById.get(finding.value?.setup ?? ''));
</script>

<template>
  <section v-if="finding && pull && style" class="card" :data-selected-pull="finding.id">
    <header>
      <b>Pull {{ finding.id }}</b>
      <SetupMark :letter="finding.setup" :colour="style.colour" :dash="style.dash" :name="style.setup.name" />
      <RouterLink :to="{ name: 'logs', params: route.params, query: route.query }">its log</RouterLink>
      <Button
        v-if="pull.kind === 'measured'"
        text
        size="small"
        :label="finding.status === 'used' ? 'Leave out' : 'Take back'"
        aria-keyshortcuts="x"
        @click="exclusion.ask(finding.id)"
      />
      <Button text size="small" label="Correct" aria-keyshortcuts="c" @click="amendment.ask(finding.id)" />
      <Button text size="small" icon="pi pi-times" aria-label="Select no pull" @click="selection.pull.value = null" />
    </header>
    <p class="figures">
      Mean <b>{{ show.power(finding.meanPowerKW) }}</b>&nbsp;{{ show.units.power }}, peak {{ show.power(finding.peakPowerKW) }} at
      {{ tied(`${finding.peakPowerRpm ?? '–'}`, 'rpm') }}; started at
      {{ tied(show.temperature(finding.startIntakeAirC), show.units.temperature) }}, rose
      {{ tied(show.temperatureDifference(finding.intakeAirRiseK), show.differenceUnit) }}.
    </p>
    <p v-if="takenText" class="figures small">{{ takenText }}</p>
    <p v-if="finding.reasons.length"><b>Not counted:</b> {{ finding.reasons.map(pullReasonWord).join(', ') }}.</p>
    <p v-for="(entry, i) in pull.amended ?? []" :key="i" class="small">
      Corrected afterwards ({{ AMENDED_WORDS[entry.what] ?? entry.what }}) by {{ entry.by }}: {{ entry.why }}
    </p>
    <p v-for="flag in detail?.flags ?? []" :key="flag.flag" class="small">{{ FLAG_WORDS[flag.flag] }}: {{ flag.detail }}</p>
    <p v-for="warning in finding.warnings" :key="warning" class="small muted">{{ warning }}</p>
  </section>
</template>

<style scoped>
.card {
  padding: 0.5rem 0.7rem;
  border: 1px solid var(--line);
  border-left: 4px solid var(--green);
  background: var(--surface);
}
header {
  display: flex;
  align-items: center;
  gap: 0.7rem;
  flex-wrap: wrap;
}
</style>
