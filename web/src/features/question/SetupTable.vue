<script setup lang="ts">
import type { Setup } from '@gezeit/contract';
import { BOUND_WARNINGS, duplicateSetup, nextSetupId } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../../model/programme-store.js';
import PartDetails from './PartDetails.vue';
import SetupHead from './SetupHead.vue';
import {
  attributeRows,
  changeAttribute,
  KNOWN_STATE_KEYS,
  SENSOR_PREFIX,
  SENSOR_QUANTITIES,
  sensorLabel,
  type AttributeRow,
} from '../../model/setup-rows.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';

/** Setups side by side, attribute by attribute: what differs stands out. Every cell is written where it stands. */
const programme = useProgramme();
const show = useShow();
const all = computed(() => programme.view!.bundle.setups);
const showArchived = ref(false);
const shown = computed(() => programme.setups.filter(({ setup }) => showArchived.value || !setup.archived));
const archivedCount = computed(() => all.value.filter(({ archived }) => archived).length);
const pressure = (kPa: number) => `${show.value.pressure(kPa, 3)} ${show.value.units.pressure}`;
const extra = ref<string[]>([]);
const rows = computed(() =>
  attributeRows(
    shown.value.map(({ setup }) => setup),
    pressure,
    extra.value,
  ),
);
const addable = computed(() => {
  const missing = (kind: AttributeRow['kind'], key: string) => !rows.value.some((row) => row.kind === kind && row.key === key);
  return Object.fromEntries([
    ...Object.entries(KNOWN_STATE_KEYS).filter(([key]) => missing('state', key)),
    ...SENSOR_QUANTITIES.filter((key) => missing('sensor', key)).map((key) => [`${SENSOR_PREFIX}${key}`, sensorLabel(key)]),
  ]) as Record<string, string>;
});
const partsOpen = ref<string | null>(null);

function edit(what: string, change: (setups: Setup[]) => Setup[]): void {
  void programme.edit('setups', what, change);
}
const patch = (id: string, what: string, change: (setup: Setup) => Setup) =>
  edit(`${id}: ${what}`, (now) => now.map((setup) => (setup.id === id ? change(setup) : setup)));
const add = () => edit('setup added', (now) => [...now, { id: nextSetupId(now), name: 'New setup', parts: [], state: {} }]);
const duplicate = (setup: Setup) => edit(`${setup.id} duplicated`, (now) => [...now, duplicateSetup(now, setup)]);
function move(id: string, by: number): void {
  edit(`${id} moved`, (now) => {
    const at = now.findIndex((setup) => setup.id === id);
    const to = at + by;
    if (to < 0 || to >= now.length) return now;
    const next = [...now];
    [next[at], next[to]] = [next[to]!, next[at]!];
    return next;
  });
}
const commitCell = (row: AttributeRow, setup: Setup, text: string) =>
  patch(setup.id, row.label.toLowerCase(), (now) => changeAttribute(now, row, text, show.value.units.pressure));
const hasPulls = (id: string) => programme.view!.bundle.pulls.some((pull) => pull.setup === id);
const remove = (id: string) => edit(`setup ${id} removed`, (now) => now.filter((setup) => setup.id !== id));
</script>

<template>
  <section aria-label="Setups side by side">
    <div class="head">
      <h2>Setups side by side</h2>
      <Button size="small" outlined icon="pi pi-plus" label="Add a setup" @click="add" />
      <ChoiceInput
        :model-value="null"
        :choices="addable"
        label="Add an attribute"
        placeholder="add an attribute…"
        @update:model-value="extra.push($event)"
      />
      <Button
        v-if="archivedCount"
        text
        size="small"
        :label="showArchived ? 'Hide archived' : `Show ${archivedCount} archived`"
        @click="showArchived = !showArchived"
      />
    </div>
    <div class="scroll" tabindex="0" role="region" aria-label="Table of setups">
      <table class="dense">
        <thead>
          <tr>
            <th>Attribute</th>
            <th v-for="{ setup, colour, dash } in shown" :key="setup.id" :class="{ archived: setup.archived }">
              <SetupHead
                :setup="setup"
                :colour="colour"
                :dash="dash"
                :is-removable="!hasPulls(setup.id) && all.length > 1"
                @patch="(what, change) => patch(setup.id, what, change)"
                @move="move(setup.id, $event)"
                @duplicate="duplicate(setup)"
                @remove="remove(setup.id)"
              />
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.kind + row.key" :class="{ differs: row.differs }">
            <td class="label">
              {{ row.label }}<span v-if="row.differs" class="tag">differs</span
              ><span v-else-if="row.unknown" class="tag">not said for all</span>
            </td>
            <td v-for="({ setup }, index) in shown" :key="setup.id">
              <TextEdit
                :model-value="row.edits[index]"
                :label="`${row.label} of ${setup.id}`"
                placeholder="not said"
                @commit="commitCell(row, setup, $event)"
              />
              <Button
                v-if="row.kind === 'parts' && setup.parts.length"
                text
                size="small"
                :label="partsOpen === setup.id ? 'Less' : 'Revision, material, serial'"
                :aria-expanded="partsOpen === setup.id"
                @click="partsOpen = partsOpen === setup.id ? null : setup.id"
              />
              <PartDetails
                v-if="row.kind === 'parts' && partsOpen === setup.id"
                :setup="setup"
                @change="patch(setup.id, 'parts', (now) => ({ ...now, partDetails: $event(now) }))"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <div v-for="{ setup } in shown.filter((entry) => entry.setup.bound)" :key="setup.id" class="bound" role="note">
      <b>{{ setup.id }} is a bound, never for sale.</b>
      <ul>
        <li v-for="warning in BOUND_WARNINGS" :key="warning">{{ warning }}</li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
}
.scroll {
  overflow-x: auto;
  margin-top: 0.4rem;
}
th {
  min-width: 13rem;
  vertical-align: top;
}
th:first-child {
  min-width: 9rem;
}
.archived {
  opacity: 0.75;
}
td :deep(.text-edit) {
  border-color: transparent;
  background: transparent;
  box-shadow: none;
  padding-left: 0.2rem;
}
td :deep(.text-edit:hover),
td :deep(.text-edit:focus) {
  border-color: var(--neutral);
  background: var(--surface);
}
.label {
  color: var(--muted);
  white-space: nowrap;
}
.differs td {
  background: var(--green-soft);
  color: var(--ink);
}
.differs .label {
  font-weight: 600;
}
.tag {
  margin-left: 0.5rem;
  padding: 0 0.35rem;
  border: 1px solid currentColor;
  border-radius: 2px;
  font-size: 13px;
  font-weight: 500;
}
.bound {
  border-left: 3px solid var(--brick);
  padding-left: 0.8rem;
  margin-top: 0.6rem;
}
.bound ul {
  padding-left: 1.1rem;
}
</style>
