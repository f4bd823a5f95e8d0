<script setup lang="ts">
import type { PlanPull } from '@gezeit/contract';
import { blockOf, changePull, insertPulls, practices, practiceText, removePulls, repeatPulls, lengthText, lettersOf } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, ref, useTemplateRef } from 'vue';
import { provideShortcuts } from '../../shared/shortcuts.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import { useProgramme } from '../../model/programme-store.js';
import HeatTable from './HeatTable.vue';
import MatrixTable from './MatrixTable.vue';
import PlanFigures from './PlanFigures.vue';
import PlanStrip from './PlanStrip.vue';
import RehearsePanel from './RehearsePanel.vue';
import RulesPanel from './RulesPanel.vue';
import RunSheet from './RunSheet.vue';
import SuggestPanel from './SuggestPanel.vue';
import SwapTable from './SwapTable.vue';
import { usePlan } from '../../model/plan-store.js';

/** The plan: which setups in which order, and what that will be able to recognise, before the day. */
const programme = useProgramme();
const plan = usePlan();
const strip = useTemplateRef<InstanceType<typeof PlanStrip>>('strip');
const selected = ref<number | null>(null);
const setups = computed(() => programme.view!.bundle.setups.filter(({ archived }) => !archived));
const place = computed(() => (selected.value !== null && selected.value < plan.plan.pulls.length ? selected.value : null));
const pull = computed(() => (place.value === null ? null : plan.plan.pulls[place.value]!));
const words = computed(() => Object.fromEntries(setups.value.map(({ id, name }) => [id, `${id} ${name}`])));
const common = computed(() => practices(plan.bundle).map((practice) => ({ ...practice, ...practiceText(practice) })));
const KINDS = { measured: 'measured', conditioning: 'conditioning' };
const other = (kind: PlanPull['kind']) => (kind === 'measured' ? 'conditioning' : 'measured');

/** Selects a pull and moves the focus with it, so that both never name different pulls. */
function choose(at: number): void {
  selected.value = at;
  void strip.value?.focusSelected();
}
function insert(kind: 'measured' | 'conditioning'): void {
  const at = place.value === null ? plan.plan.pulls.length : place.value + 1;
  const setup = pull.value?.setup ?? plan.plan.pulls.at(-1)?.setup ?? setups.value[0]?.id;
  if (!setup) return;
  plan.change(`${kind} pull inserted`, (now) => insertPulls(now, at, [{ setup, kind }]));
  choose(at);
}
function remove(): void {
  if (place.value === null) return;
  const at = place.value;
  plan.change('pull removed', (now) => removePulls(now, at));
  choose(Math.max(0, Math.min(at, plan.plan.pulls.length - 1)));
}
function repeat(whole: boolean): void {
  if (place.value === null) return;
  const [from, to] = whole ? blockOf(plan.plan, place.value) : [place.value, place.value];
  plan.change(whole ? 'block repeated' : 'pull repeated', (now) => repeatPulls(now, from, to));
  choose(to + 1);
}
const change = (what: string, value: Parameters<typeof changePull>[2]) => {
  if (place.value === null) return;
  const at = place.value;
  plan.change(what, (now) => changePull(now, at, value));
};
const toggle = () => change('kind changed', { kind: other(pull.value!.kind) });
/** What the palette calls what can be done with the selected pull; null where none is. */
const ofPull = (says: (name: string, of: PlanPull) => string) => pull.value && says(`pull ${place.value! + 1} of the plan`, pull.value);
const inserting = (kind: PlanPull['kind']) =>
  setups.value.length > 0 ? `Insert a ${kind} pull ${place.value === null ? 'at the end' : `behind pull ${place.value + 1}`}` : null;
function step(by: 1 | -1): void {
  choose(Math.max(0, Math.min(plan.plan.pulls.length - 1, (place.value ?? (by > 0 ? -1 : plan.plan.pulls.length)) + by)));
}

const print = () => window.print();

provideShortcuts([
  { keys: [',', '←'], what: 'the pull before', run: () => step(-1) },
  { keys: ['.', '→'], what: 'the next pull (Alt + arrow moves it, Alt + Shift + arrow its block)', run: () => step(1) },
  { keys: ['i'], what: 'insert a measured pull behind', command: () => inserting('measured'), run: () => insert('measured') },
  { keys: ['c'], what: 'insert a conditioning pull behind', command: () => inserting('conditioning'), run: () => insert('conditioning') },
  { keys: ['m'], what: 'measured or conditioning', command: () => ofPull((name, { kind }) => `Make ${name} ${other(kind)}`), run: toggle },
  { keys: ['d'], what: 'repeat the pull', command: () => ofPull((name) => `Repeat ${name}`), run: () => repeat(false) },
  { keys: ['b'], what: 'repeat its block', command: () => ofPull((name) => `Repeat the block of ${name}`), run: () => repeat(true) },
  { keys: ['Delete', 'Backspace'], what: 'remove the pull', command: () => ofPull((name) => `Remove ${name}`), run: remove },
  {
    keys: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
    what: 'the setup of the pull',
    run: (key) => setups.value[Number(key) - 1] && change('setup changed', { setup: setups.value[Number(key) - 1]!.id }),
  },
]);
</script>

<template>
  <div class="page">
    <h1 class="visually-hidden">Plan</h1>
    <div class="top">
      <PlanFigures />
      <section class="pull" aria-label="The selected pull">
        <h2>{{ pull ? `Pull ${place! + 1}` : 'No pull selected' }}</h2>
        <template v-if="pull">
          <FieldRow label="Setup" why="What the car is fitted with.">
            <ChoiceInput
              :model-value="pull.setup"
              :choices="words"
              label="Setup of the pull"
              @update:model-value="change('setup changed', { setup: $event })"
            />
          </FieldRow>
          <FieldRow label="Kind" why="A conditioning pull settles the car and is never compared.">
            <ChoiceInput
              :model-value="pull.kind"
              :choices="KINDS"
              label="Kind of the pull"
              @update:model-value="change('kind changed', { kind: $event as 'measured' })"
            />
          </FieldRow>
          <FieldRow label="Break before" why="On top of the rest or swap: lunch, another car.">
            <NumberInput
              :model-value="(pull.breakMin ?? 0) * 60"
              unit="min"
              label="Break before the pull"
              :least="0"
              width="4rem"
              @commit="$event !== null && change('break', { breakMin: $event / 60 || null })"
            />
          </FieldRow>
        </template>
        <div class="tools">
          <Button size="small" outlined icon="pi pi-plus" label="Measured" aria-keyshortcuts="i" @click="insert('measured')" />
          <Button size="small" outlined icon="pi pi-plus" label="Conditioning" aria-keyshortcuts="c" @click="insert('conditioning')" />
          <template v-if="pull">
            <Button size="small" text icon="pi pi-copy" label="Repeat" aria-keyshortcuts="d" @click="repeat(false)" />
            <Button size="small" text icon="pi pi-clone" label="Repeat block" aria-keyshortcuts="b" @click="repeat(true)" />
            <Button size="small" text icon="pi pi-trash" label="Remove" aria-keyshortcuts="Delete" @click="remove" />
          </template>
        </div>
      </section>
    </div>
    <PlanStrip
      ref="strip"
      class="strip"
      :plan="plan.plan"
      :heat="plan.heat"
      :selected="place"
      @select="selected = $event"
      @change="plan.change"
    />
    <div class="desk">
      <section aria-label="Common practices">
        <h2>Common practices</h2>
        <p v-if="common.length === 0" class="muted">Add a reference and another setup on Question first.</p>
        <ul class="practices">
          <li v-for="practice in common" :key="practice.id">
            <Button
              size="small"
              outlined
              :label="practice.title"
              :disabled="practice.impossible !== null"
              @click="plan.change(practice.title, (now) => ({ ...now, ...practice.plan }))"
            />
            <div>
              <p v-if="practice.impossible">
                <b>{{ practice.impossible }}</b>
              </p>
              <p>{{ practice.price }}</p>
              <p class="muted small">{{ lettersOf(practice.plan.pulls) }} · {{ lengthText(practice.plan.pulls.at(-1)!.atMin) }}</p>
            </div>
          </li>
        </ul>
      </section>
      <div class="middle"><SuggestPanel /><RehearsePanel /></div>
      <div class="middle">
        <SwapTable />
        <MatrixTable />
        <HeatTable />
        <Button
          outlined
          size="small"
          icon="pi pi-print"
          label="Print the run sheet"
          :disabled="plan.plan.pulls.length === 0"
          @click="print"
        />
      </div>
    </div>
    <RulesPanel class="rules" />
    <RunSheet />
  </div>
</template>

<style scoped>
.top {
  display: grid;
  grid-template-columns: minmax(0, 1.5fr) minmax(20rem, 1fr);
  gap: 2rem;
}
.pull {
  border-left: 1px solid var(--line);
  padding-left: 1.2rem;
  min-height: 12rem;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
  margin-top: 0.4rem;
}
.strip {
  border-top: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
  margin-top: 0.6rem;
  padding-top: 0.35rem;
}
.desk {
  display: grid;
  grid-template-columns: 1.2fr 1.1fr 1fr;
  gap: 2rem;
  margin-top: 0.8rem;
}
.desk > * {
  min-width: 0;
}
.middle {
  display: grid;
  gap: 1.2rem;
  align-content: start;
}
.middle > * {
  min-width: 0;
}
.middle > button {
  justify-self: start;
}
.rules {
  border-top: 1px solid var(--line);
  margin-top: 1rem;
  padding-top: 0.8rem;
}
.practices {
  list-style: none;
  padding: 0;
}
.practices li {
  display: grid;
  grid-template-columns: 9.5rem 1fr;
  gap: 0.7rem;
  align-items: start;
  padding: 0.3rem 0;
  border-bottom: 1px solid var(--line);
}
@media print {
  .page > *:not(.run-sheet) {
    display: none;
  }
}
@media (max-width: 1000px) {
  .top,
  .desk {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
