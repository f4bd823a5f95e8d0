<script setup lang="ts">
import type { PlanGate } from '@gezeit/contract';
import { defaultGates, gateQuantity, GATES_OFFERED } from '@gezeit/core';
import Button from 'primevue/button';
import { computed } from 'vue';
import { usePlan } from '../../model/plan-store.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import RowTable from '../../shared/form/RowTable.vue';
import type { RowColumn } from '../../shared/form/row-columns.js';
import { useShow } from '../../shared/units/use-show.js';
import { freshOwnId, offeredStill } from './offered.js';

/** Gates before a pull: what must be reached, how nearly, and whether the pull waits for it. */
const plan = usePlan();
const show = useShow();
const gates = computed<PlanGate[]>(() => plan.plan.gates ?? defaultGates(plan.bundle));
const SIDES = { within: 'both ends', 'at-most': 'upper end', 'at-least': 'lower end' };
/** Units that a gate of one's own can be typed in. */
const OWN_UNITS = Object.fromEntries(
  ['°C', 'K', 'kPa', 'bar', 'm', 'mm', 'km/h', 'rpm', '%', '–'].map((unit) => [unit, unit === '–' ? 'none' : unit]),
);
const isOwn = ({ id, quantity }: PlanGate) => /^own-/.test(id) && quantity === null;
const sourceOf = (gate: PlanGate) => (gate.unit === 'min' ? 'counted' : gateQuantity(gate) ? 'streamed' : 'typed');
const columns: RowColumn<PlanGate>[] = [
  { name: 'label', label: 'What', kind: 'text', needed: true, of: ({ label }) => label, aria: ({ label }) => `Name of the gate ${label}` },
  {
    name: 'target',
    label: 'Target',
    kind: 'own-unit',
    of: ({ target }) => target,
    unitOf: ({ unit }) => unit,
    aria: ({ label }) => `Target of ${label}`,
  },
  {
    name: 'tolerance',
    label: '±',
    kind: 'own-unit',
    difference: true,
    least: 0,
    of: ({ tolerance }) => tolerance,
    unitOf: ({ unit }) => unit,
    aria: ({ label }) => `Tolerance of ${label}`,
  },
  {
    name: 'unit',
    label: 'Unit',
    title: 'And whether a device streams it, it is typed from an instrument, or the clock counts it',
    kind: 'choice',
    isTyped: isOwn,
    choices: OWN_UNITS,
    of: ({ unit }) => unit,
    aria: ({ label }) => `Unit of ${label}`,
  },
  {
    name: 'side',
    label: 'Counts',
    kind: 'choice',
    choices: SIDES,
    of: ({ side }) => side ?? 'within',
    aria: ({ label }) => `Which side of ${label} counts`,
  },
  { name: 'must', label: 'Must', kind: 'check', of: ({ must }) => must, aria: ({ label }) => `${label} must be reached` },
];
const OTHER = 'other';
const offered = computed(() => ({ ...offeredStill(GATES_OFFERED, gates.value), [OTHER]: 'something else, typed' }));

const setGates = (what: string, next: (gates: PlanGate[]) => PlanGate[]) =>
  plan.change(`gate: ${what}`, (now) => ({ ...now, gates: next(gates.value) }));
const patch = (id: string, change: Partial<PlanGate>) =>
  setGates(id, (list) => list.map((gate) => (gate.id === id ? { ...gate, ...change } : gate)));
const add = (key: string) =>
  setGates('added', (list) => {
    const ready = GATES_OFFERED[key];
    if (ready) return [...list, { ...ready, id: key, must: false }];
    const id = freshOwnId(list);
    return [...list, { id, label: id.replace('own-', 'new gate '), target: 0, tolerance: 1, unit: '–', quantity: null, must: false }];
  });
</script>

<template>
  <div>
    <h2>Gates before a pull</h2>
    <RowTable
      :rows="gates"
      :columns="columns"
      :row-key="({ id }) => id"
      :removes="({ label }) => `Remove the gate ${label}`"
      class="gates"
      @set="({ id }, name, value) => patch(id, { [name]: value })"
      @remove="({ id, label }) => setGates(`${label} removed`, (list) => list.filter((gate) => gate.id !== id))"
    >
      <template #unit="{ row }">
        <template v-if="!isOwn(row)">{{ show.words.shownUnit(row.unit) }}</template>
        <span class="muted small">, {{ sourceOf(row) }}</span>
      </template>
    </RowTable>
    <ChoiceInput
      :key="gates.length"
      :model-value="null"
      :choices="offered"
      label="Add a gate"
      placeholder="Add a gate…"
      @update:model-value="add"
    />
    <Button
      v-if="plan.plan.gates"
      text
      size="small"
      label="As proposed for this engine"
      @click="plan.change('gates as proposed', (now) => ({ ...now, gates: null }))"
    />
  </div>
</template>

<style scoped>
.gates :deep(td.text) {
  min-width: 11.5rem;
}
</style>
