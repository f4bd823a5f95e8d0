<script setup lang="ts">
import { INSTRUMENTS } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, onBeforeUnmount } from 'vue';
import { provideShortcuts } from '../../shared/shortcuts.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import { useProgramme } from '../../model/programme-store.js';
import BudgetTable from './BudgetTable.vue';
import EvidenceList from './EvidenceList.vue';
import InstrumentPanel from './InstrumentPanel.vue';
import PathStrip from './PathStrip.vue';
import SectionPanel from './SectionPanel.vue';
import { useBench } from './use-bench.js';
import { useBenchInputs } from './bench-inputs-store.js';
import { usePathEdit } from './use-path-edit.js';
import { SECTION_WORDS } from './section-words.js';

/** The bench: the air's way from opening to valve with its losses, and every instrument in the order of the way. */
const programme = useProgramme();
const bench = useBench();
const inputs = useBenchInputs();
const { addSection, copyPath } = usePathEdit();
const pair = computed(() => Object.fromEntries(bench.setups.value.map(({ id, name }) => [id, `${id} ${name}`])));
const kinds = computed(() => SECTION_WORDS);
const belongs = (sections: readonly string[]) => bench.column.value !== null && sections.includes(bench.column.value.kind);
const hasPath = computed(() => bench.columns.value.length > 0);
const hasEvidence = computed(() => programme.view!.evidence.length > 0);
const demandText = computed(() => (bench.conditions.value ? `${(bench.conditions.value.massFlowKgS * 1000).toFixed(0)} g/s` : 'not known'));

function setSpeed(rpm: number | null): void {
  if (rpm === null || !(rpm > 0) || rpm > 20_000) return;
  void programme.edit('bench', `budget at ${Math.round(rpm)} rpm`, (now) => ({ inputs: {}, ...now, budgetRpm: rpm }));
}
provideShortcuts([{ keys: ['Escape'], what: 'close the instrument or section', run: () => void bench.close() }]);
onBeforeUnmount(() => void inputs.store());
</script>

<template>
  <div class="page">
    <h1 class="visually-hidden">Bench</h1>
    <div class="bar">
      <ChoiceInput
        :model-value="bench.reference.value?.id"
        :choices="pair"
        label="First setup"
        @update:model-value="bench.choosePair($event, bench.candidate.value?.id ?? $event)"
      />
      <span class="muted">beside</span>
      <ChoiceInput
        :model-value="bench.candidate.value?.id"
        :choices="pair"
        label="Second setup"
        @update:model-value="bench.choosePair(bench.reference.value?.id ?? $event, $event)"
      />
      <span class="at">
        at
        <NumberInput :model-value="bench.budgetRpm.value" unit="rpm" label="Engine speed of the budget" width="5rem" @commit="setSpeed" />
        <button type="button" class="demand" @click="bench.openInstrument('air-demand')">air demand {{ demandText }}</button>
      </span>
      <span class="spacer" />
      <ChoiceInput
        :model-value="null"
        :choices="kinds"
        label="Add a section"
        placeholder="add a section…"
        @update:model-value="addSection($event)"
      />
      <Button
        v-if="bench.reference.value?.path?.length && !bench.candidate.value?.path?.length"
        size="small"
        outlined
        :label="`Copy the path of ${bench.reference.value.id} to ${bench.candidate.value?.id}`"
        @click="copyPath(bench.reference.value!, bench.candidate.value!)"
      />
    </div>
    <PathStrip v-if="hasPath" />
    <div class="desk" :class="{ alone: !hasPath && !hasEvidence }">
      <div v-if="hasPath || hasEvidence" class="left">
        <BudgetTable v-if="hasPath" />
        <EvidenceList />
      </div>
      <div class="right">
        <nav class="instruments" aria-label="Instruments of the bench">
          <button
            v-if="bench.column.value"
            type="button"
            class="instrument"
            :class="{ active: !bench.instrument.value }"
            @click="bench.openInstrument(null)"
          >
            {{ bench.column.value.name }}
          </button>
          <button
            v-for="instrument in INSTRUMENTS"
            :key="instrument.id"
            type="button"
            class="instrument"
            :class="{ active: bench.instrument.value?.id === instrument.id, belongs: belongs(instrument.sections) }"
            :title="instrument.question"
            @click="bench.openInstrument(instrument.id)"
          >
            {{ instrument.title }}
          </button>
        </nav>
        <InstrumentPanel v-if="bench.instrument.value" :key="bench.instrument.value.id" :instrument="bench.instrument.value" />
        <SectionPanel v-else-if="bench.column.value" :key="bench.column.value.id" :column="bench.column.value" />
        <div v-else class="empty">
          <template v-if="!hasPath">
            <h2>No section yet: add the first one.</h2>
            <p><Button label="Add the opening" icon="pi pi-plus" @click="addSection('opening')" /></p>
          </template>
          <p><b>Find where the restriction is before cutting.</b> The suspected section is often not the one.</p>
          <ol>
            <li>Add the sections of the stock tract in the order of the air’s way, then copy the path to the new setup.</li>
            <li>Say each section’s geometry for an estimate, or read it on the flow bench: a reading beats an estimate.</li>
            <li>The budget sorts the losses at the engine’s own air demand, and says what could be gained at most.</li>
          </ol>
          <p class="muted">Choose a section above, or an instrument.</p>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem 0.6rem;
  margin-bottom: 0.5rem;
}
.at {
  display: inline-flex;
  align-items: baseline;
  gap: 0.4rem;
  margin-left: 0.8rem;
}
.demand {
  font: inherit;
  color: var(--green);
  background: none;
  border: 0;
  text-decoration: underline dotted;
  cursor: pointer;
}
.spacer {
  flex: 1;
}
.desk {
  display: grid;
  grid-template-columns: minmax(33.5rem, 0.75fr) minmax(0, 1fr);
  gap: 2rem;
  margin-top: 0.8rem;
}
.desk.alone {
  grid-template-columns: minmax(0, 1fr);
}
.left,
.right {
  min-width: 0;
}
.instruments {
  display: flex;
  flex-wrap: wrap;
  gap: 0.1rem 0.2rem;
  border-bottom: 1px solid var(--line);
  padding-bottom: 0.4rem;
  margin-bottom: 0.6rem;
}
.instrument {
  font: inherit;
  font-size: 13px;
  padding: 0.12rem 0.45rem;
  border: 1px solid transparent;
  border-radius: 2px;
  background: none;
  color: var(--muted);
  cursor: pointer;
}
.instrument:hover {
  color: var(--ink);
  border-color: var(--line);
}
.instrument.belongs {
  color: var(--green);
  font-weight: 600;
}
.instrument.active {
  background: var(--green);
  color: var(--ground);
  font-weight: 600;
}
.empty {
  display: grid;
  gap: 0.6rem;
  max-width: 40rem;
}
.empty ol {
  padding-left: 1.2rem;
}
@media (max-width: 1000px) {
  .desk {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
