<script setup lang="ts">
import type { ChecklistName, PlanGate, PlanStop } from '@gezeit/contract';
import {
  isStreamed,
  checklists,
  defaultGates,
  defaultStops,
  gateQuantity,
  GATES_OFFERED,
  STOPS_OFFERED,
  isByEye,
  shownUnitOf,
} from '@gezeit/core';
import Button from 'primevue/button';
import Checkbox from 'primevue/checkbox';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { useUnits } from '../../shared/units/units-store.js';
import PlainNumber from './PlainNumber.vue';
import { usePlan } from '../../model/plan-store.js';

/** Gates before a pull, limits at which everything stops, and the day's checklists. Safety items can be added to, never taken off. */
const plan = usePlan();
const units = useUnits();
const gates = computed<PlanGate[]>(() => plan.plan.gates ?? defaultGates(plan.bundle));
const stops = computed<PlanStop[]>(() => plan.plan.stops ?? defaultStops(plan.bundle));
const lists = computed(() => checklists(plan.bundle));
const typed = ref<Partial<Record<ChecklistName, string>>>({});

const SIDES = { within: 'both ends', 'at-most': 'upper end', 'at-least': 'lower end' };

const setGates = (what: string, next: (gates: PlanGate[]) => PlanGate[]) =>
  plan.change(`gate: ${what}`, (now) => ({ ...now, gates: next(gates.value) }));
const setStops = (what: string, next: (stops: PlanStop[]) => PlanStop[]) =>
  plan.change(`stop criterion: ${what}`, (now) => ({ ...now, stops: next(stops.value) }));
const patchGate = (id: string, change: Partial<PlanGate>) =>
  setGates(id, (list) => list.map((gate) => (gate.id === id ? { ...gate, ...change } : gate)));
const patchStop = (id: string, change: Partial<PlanStop>) =>
  setStops(id, (list) => list.map((stop) => (stop.id === id ? { ...stop, ...change } : stop)));
const OTHER = 'other';
const offeredGates = computed(() => ({ ...wordsOf(GATES_OFFERED, gates.value), [OTHER]: 'something else, typed' }));
const offeredStops = computed(() => wordsOf(STOPS_OFFERED, stops.value));
/** What is offered and not there yet. */
function wordsOf(offered: Readonly<Record<string, { label: string }>>, there: readonly { id: string }[]): Record<string, string> {
  const missing = Object.entries(offered).filter(([key]) => !there.some(({ id }) => id === key));
  return Object.fromEntries(missing.map(([key, { label }]) => [key, label]));
}
/** Units that a gate of one's own can be typed in. */
const OWN_UNITS = Object.fromEntries(
  ['°C', 'K', 'kPa', 'bar', 'm', 'mm', 'km/h', 'rpm', '%', '–'].map((unit) => [unit, unit === '–' ? 'none' : unit]),
);
const isOwn = ({ id, quantity }: PlanGate) => /^own-/.test(id) && quantity === null;
const sourceOf = (gate: PlanGate) => (gate.unit === 'min' ? 'counted' : gateQuantity(gate) ? 'streamed' : 'typed');
const addGate = (key: string) =>
  setGates('added', (list) => {
    const offered = GATES_OFFERED[key];
    if (offered) return [...list, { ...offered, id: key, must: false }];
    const id = freshId(list);
    return [...list, { id, label: id.replace('own-', 'new gate '), target: 0, tolerance: 1, unit: '–', quantity: null, must: false }];
  });
const addStop = (key: string) => setStops('added', (list) => [...list, { ...STOPS_OFFERED[key]!, id: key }]);

const freshId = (taken: readonly { id: string }[]) => {
  let number = 1;
  while (taken.some(({ id }) => id === `own-${number}`)) number += 1;
  return `own-${number}`;
};
function addItem(name: ChecklistName): void {
  const text = typed.value[name]?.trim();
  if (!text) return;
  const items = lists.value.find((list) => list.name === name)!.items;
  plan.change('checklist', (now) => ({
    ...now,
    checklists: { ...now.checklists, [name]: [...items, { id: freshId(items), text, safety: false }] },
  }));
  typed.value[name] = '';
}
function removeItem(name: ChecklistName, id: string): void {
  const items = lists.value.find((list) => list.name === name)!.items;
  plan.change('checklist', (now) => ({ ...now, checklists: { ...now.checklists, [name]: items.filter((item) => item.id !== id) } }));
}
</script>

<template>
  <section aria-label="Rules of the day">
    <div class="grid">
      <div>
        <h2>Gates before a pull</h2>
        <div class="scroll">
          <table class="dense">
            <thead>
              <tr>
                <th>What</th>
                <th class="number">Target</th>
                <th class="number">±</th>
                <th title="And whether a device streams it, it is typed from an instrument, or the clock counts it">Unit</th>
                <th>Counts</th>
                <th>Must</th>
                <th><span class="visually-hidden">Remove</span></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="gate in gates" :key="gate.id">
                <td>
                  <TextEdit
                    class="name"
                    :model-value="gate.label"
                    :label="`Name of the gate ${gate.label}`"
                    @commit="$event && patchGate(gate.id, { label: $event })"
                  />
                </td>
                <td class="number">
                  <PlainNumber
                    :value="gate.target"
                    :unit="gate.unit"
                    :label="`Target of ${gate.label}`"
                    @commit="patchGate(gate.id, { target: $event })"
                  />
                </td>
                <td class="number">
                  <PlainNumber
                    :value="gate.tolerance"
                    :unit="gate.unit"
                    difference
                    :label="`Tolerance of ${gate.label}`"
                    :least="0"
                    @commit="patchGate(gate.id, { tolerance: $event })"
                  />
                </td>
                <td>
                  <ChoiceInput
                    v-if="isOwn(gate)"
                    :model-value="gate.unit"
                    :choices="OWN_UNITS"
                    :label="`Unit of ${gate.label}`"
                    @update:model-value="patchGate(gate.id, { unit: $event })"
                  />
                  <template v-else>{{ shownUnitOf(gate.unit, false, units.chosen) }}</template>
                  <span class="muted small">, {{ sourceOf(gate) }}</span>
                </td>
                <td>
                  <ChoiceInput
                    :model-value="gate.side ?? 'within'"
                    :choices="SIDES"
                    :label="`Which side of ${gate.label} counts`"
                    @update:model-value="patchGate(gate.id, { side: $event as PlanGate['side'] })"
                  />
                </td>
                <td>
                  <Checkbox
                    :model-value="gate.must"
                    binary
                    :aria-label="`${gate.label} must be reached`"
                    @update:model-value="patchGate(gate.id, { must: $event })"
                  />
                </td>
                <td>
                  <Button
                    text
                    size="small"
                    icon="pi pi-times"
                    :aria-label="`Remove the gate ${gate.label}`"
                    @click="setGates(`${gate.label} removed`, (list) => list.filter(({ id }) => id !== gate.id))"
                  />
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <ChoiceInput
          :key="gates.length"
          :model-value="null"
          :choices="offeredGates"
          label="Add a gate"
          placeholder="Add a gate…"
          @update:model-value="addGate"
        />
        <Button
          v-if="plan.plan.gates"
          text
          size="small"
          label="As proposed for this engine"
          @click="plan.change('gates as proposed', (now) => ({ ...now, gates: null }))"
        />
      </div>
      <div>
        <h2>Stop at</h2>
        <p class="muted small">Agreed before the first pull. Lean mixture, knock and over-boost destroy engines.</p>
        <div class="scroll">
          <table class="dense">
            <tbody>
              <tr v-for="stop in stops" :key="stop.id">
                <td class="what">{{ stop.label }}</td>
                <td>{{ isByEye(stop) ? '' : stop.above ? 'above' : 'below' }}</td>
                <td class="number">
                  <PlainNumber
                    v-if="!isByEye(stop)"
                    :value="stop.limit"
                    :unit="stop.unit"
                    :label="`Limit of ${stop.label}`"
                    @commit="patchStop(stop.id, { limit: $event })"
                  />
                </td>
                <td>{{ shownUnitOf(stop.unit, false, units.chosen) }}</td>
                <td class="what">
                  <span v-if="!isStreamed(stop)" class="muted">watched by eye</span>
                  <span v-if="stop.limit === null && stop.unit !== '–'" class="missing">fill in before the first pull</span>
                </td>
                <td>
                  <Button
                    v-if="stop.id in STOPS_OFFERED"
                    text
                    size="small"
                    icon="pi pi-times"
                    :aria-label="`Remove the limit of ${stop.label}`"
                    @click="setStops(`${stop.label} removed`, (list) => list.filter(({ id }) => id !== stop.id))"
                  />
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <ChoiceInput
          :key="stops.length"
          :model-value="null"
          :choices="offeredStops"
          label="Add a limit"
          placeholder="Add a limit…"
          @update:model-value="addStop"
        />
      </div>
    </div>
    <div class="lists">
      <div v-for="list in lists" :key="list.name">
        <h2>{{ list.title }}</h2>
        <ul>
          <li v-for="entry in list.items" :key="entry.id">
            <span>{{ entry.text }}</span>
            <span v-if="entry.safety" class="safety" title="Safety: cannot be taken off">safety</span>
            <Button
              v-else
              text
              size="small"
              icon="pi pi-times"
              :aria-label="`Take off: ${entry.text}`"
              @click="removeItem(list.name, entry.id)"
            />
          </li>
        </ul>
        <form @submit.prevent="addItem(list.name)">
          <InputText
            v-model="typed[list.name]"
            :aria-label="`Add to: ${list.title}`"
            placeholder="add…"
            autocomplete="off"
            maxlength="200"
          />
        </form>
      </div>
    </div>
    <p class="muted small">
      Local codes and licensed practice come first. Gezeit controls no machine: the emergency stop is the cell’s own.
    </p>
  </section>
</template>

<style scoped>
.name {
  min-width: 11.5rem;
}
td {
  white-space: nowrap;
}
td.what {
  white-space: normal;
}
.grid,
.lists {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(24rem, 100%), 1fr));
  gap: 1rem 2rem;
}
@media (min-width: 1200px) {
  .grid {
    grid-template-columns: minmax(0, 4fr) minmax(0, 3fr);
  }
}
.lists {
  grid-template-columns: repeat(auto-fit, minmax(min(17rem, 100%), 1fr));
  margin-top: 0.8rem;
}
.grid > *,
.lists > * {
  min-width: 0;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 0.5rem;
  border-bottom: 1px solid var(--line);
  padding: 0.12rem 0;
}
.safety {
  font-size: 13px;
  border: 1px solid currentColor;
  border-radius: 2px;
  padding: 0 0.3rem;
  color: var(--brick);
}
.missing {
  color: var(--brick);
  font-size: 13px;
}
</style>
