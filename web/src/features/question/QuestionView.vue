<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import AskedPanel from './AskedPanel.vue';
import CarPanel from './CarPanel.vue';
import CellPanel from './CellPanel.vue';
import ClaimList from './ClaimList.vue';
import CloudPreview from './CloudPreview.vue';
import ConditionCheck from './ConditionCheck.vue';
import EarlierAnswers from '../../parts/EarlierAnswers.vue';
import QuestionList from './QuestionList.vue';
import SetupTable from './SetupTable.vue';
import { useProgrammeActions } from './use-programme-actions.js';

/** What the programme asks, on which car and in which cell, and what the setups differ in: everything is written where it stands. */
const programme = useProgramme();
const view = computed(() => programme.view!);
const gaps = computed(() => view.value.gaps.filter(({ step }) => step === 'question'));
const actions = useProgrammeActions();
</script>

<template>
  <div class="page">
    <h1 class="visually-hidden">{{ view.bundle.programme.question || view.bundle.programme.title }}</h1>
    <div class="top">
      <div class="lead">
        <AskedPanel />
        <QuestionList class="next" />
        <ClaimList class="next" />
      </div>
      <aside>
        <section v-if="gaps.length" class="gaps" aria-label="Still open">
          <h2>Still open</h2>
          <ul>
            <li v-for="gap in gaps" :key="gap.field + gap.text">{{ gap.text }}</li>
          </ul>
          <p class="muted small">Nothing here keeps you from saving; a later step needs it.</p>
        </section>
        <p v-else class="complete"><i class="pi pi-check" aria-hidden="true" /> Nothing is open on this page.</p>
        <EarlierAnswers v-if="view.bundle.programme.revalidates" />
        <ConditionCheck />
        <div class="actions">
          <Button
            text
            size="small"
            icon="pi pi-replay"
            label="Re-validate"
            title="A new programme with these questions, setups and plan"
            @click="actions.revalidate()"
          />
          <Button
            text
            size="small"
            icon="pi pi-box"
            label="Put away"
            title="Off the board; it can be brought back"
            @click="actions.putAway()"
          />
          <a class="export" :href="`/api/programmes/${view.id}/bundle`" download>Export the bundle</a>
        </div>
      </aside>
    </div>
    <div class="setups">
      <SetupTable />
      <CloudPreview />
    </div>
    <div class="columns">
      <CarPanel />
      <CellPanel />
    </div>
  </div>
</template>

<style scoped>
.top {
  display: grid;
  grid-template-columns: minmax(0, 1.45fr) minmax(24rem, 1fr);
  gap: 2.4rem;
  padding-bottom: 1rem;
}
.lead {
  min-width: 0;
}
.gaps {
  border-left: 3px solid var(--ink);
  padding-left: 0.8rem;
  margin-bottom: 0.8rem;
}
.gaps ul {
  padding-left: 1.1rem;
  margin: 0.2rem 0;
}
.complete {
  color: var(--green);
  margin-bottom: 0.6rem;
}
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
  align-items: center;
  margin-top: 0.6rem;
}
.export {
  padding: 0.35rem 0.6rem;
}
.columns {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2.4rem;
  padding: 0.9rem 0 1.2rem;
  border-top: 1px solid var(--line);
}
.columns > section {
  min-width: 0;
}
.next {
  margin-top: 0.9rem;
}
.setups {
  border-top: 1px solid var(--line);
  padding: 0.9rem 0 1rem;
  display: grid;
  gap: 1rem;
}
.setups > * {
  min-width: 0;
}
@media (max-width: 1000px) {
  .top,
  .columns {
    grid-template-columns: minmax(0, 1fr);
    gap: 1.2rem;
  }
}
</style>
