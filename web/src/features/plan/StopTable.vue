<script setup lang="ts">
import type { PlanStop } from '@gezeit/contract';
import { defaultStops, isByEye, isStreamed, STOPS_OFFERED } from '@gezeit/core';
import { computed } from 'vue';
import { usePlan } from '../../model/plan-store.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import RowTable from '../../shared/form/RowTable.vue';
import type { RowColumn } from '../../shared/form/row-columns.js';
import { useShow } from '../../shared/units/use-show.js';
import { offeredStill } from './offered.js';

/** Limits at which everything stops. Those that every engine needs are changed, never taken off. */
const plan = usePlan();
const show = useShow();
const stops = computed<PlanStop[]>(() => plan.plan.stops ?? defaultStops(plan.bundle));
const offered = computed(() => offeredStill(STOPS_OFFERED, stops.value));
const columns: RowColumn<PlanStop>[] = [
  { name: 'label', label: 'What', kind: 'shown', of: ({ label }) => label },
  { name: 'side', label: 'Side', kind: 'shown', of: (stop) => (isByEye(stop) ? '' : stop.above ? 'above' : 'below') },
  {
    name: 'limit',
    label: 'Limit',
    kind: 'own-unit',
    isTyped: (stop) => !isByEye(stop),
    of: ({ limit }) => limit,
    unitOf: ({ unit }) => unit,
    aria: ({ label }) => `Limit of ${label}`,
  },
  { name: 'unit', label: 'Unit', kind: 'shown', of: ({ unit }) => show.value.words.shownUnit(unit) },
  { name: 'watched', label: 'Watched', kind: 'shown', of: (stop) => (isStreamed(stop) ? '' : 'watched by eye') },
];
const setStops = (what: string, next: (stops: PlanStop[]) => PlanStop[]) =>
  plan.change(`stop criterion: ${what}`, (now) => ({ ...now, stops: next(stops.value) }));
const patch = (id: string, change: Partial<PlanStop>) =>
  setStops(id, (list) => list.map((stop) => (stop.id === id ? { ...stop, ...change } : stop)));
</script>

<template>
  <div>
    <h2>Stop at</h2>
    <p class="muted small">Agreed before the first pull. Lean mixture, knock and over-boost destroy engines.</p>
    <RowTable
      :rows="stops"
      :columns="columns"
      headless
      :row-key="({ id }) => id"
      :removes="({ id, label }) => (id in STOPS_OFFERED ? `Remove the limit of ${label}` : null)"
      @set="({ id }, name, value) => patch(id, { [name]: value })"
      @remove="({ id, label }) => setStops(`${label} removed`, (list) => list.filter((stop) => stop.id !== id))"
    >
      <template #watched="{ row }">
        <span v-if="row.limit === null && row.unit !== '–'" class="missing">fill in before the first pull</span>
      </template>
    </RowTable>
    <ChoiceInput
      :key="stops.length"
      :model-value="null"
      :choices="offered"
      label="Add a limit"
      placeholder="Add a limit…"
      @update:model-value="(key) => setStops('added', (list) => [...list, { ...STOPS_OFFERED[key]!, id: key }])"
    />
  </div>
</template>

<style scoped>
/* Below what stands there already. */
.missing {
  display: block;
  color: var(--brick);
  font-size: 13px;
}
</style>
