<script setup lang="ts">
import type { Cell, CellEntry } from '@gezeit/contract';
import { UNNAMED_CELL } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { api } from '../../shared/api/client.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { useProgramme } from '../../model/programme-store.js';
import SensorTable from './SensorTable.vue';

/** The cell: the dyno, its fans and sensors, and what is known of its repeatability; shared by programmes. */
const programme = useProgramme();
const view = computed(() => programme.view!);
const cells = computed<Cell[]>(() => view.value.bundle.cells ?? (view.value.bundle.cell ? [view.value.bundle.cell] : []));
const known = shallowRef<CellEntry[]>([]);
const load = async () => (known.value = await api.cells().catch(() => []));
onMounted(load);
watch(() => view.value.cellIds.join(), load);
const others = computed(() =>
  Object.fromEntries(known.value.filter(({ id }) => !view.value.cellIds.includes(id)).map(({ id, cell }) => [id, cell.name])),
);
const moreOpen = ref(false);
const draft = ref<Record<string, number | null>>({});

function set(index: number, what: string, change: Partial<Cell>): void {
  void programme.edit('cells', `cell: ${what}`, (now) => now.map((cell, i) => (i === index ? { ...cell, ...change } : cell)));
}
type Sensors = NonNullable<Cell['sensors']>;
function setSensors(index: number, what: string, change: (now: Sensors) => Sensors): void {
  void programme.edit('cells', `cell: ${what}`, (now) =>
    now.map((cell, i) => (i === index ? { ...cell, sensors: change(cell.sensors ?? []) } : cell)),
  );
}
const useInstead = (id: string) => void programme.edit('cellIds', `cell chosen: ${others.value[id]}`, (now) => [id, ...now.slice(1)]);
async function addCell(): Promise<void> {
  const made = await programme.request(() => api.addCell({ name: `Cell ${cells.value.length + 1}`, powerAt: 'wheel' }));
  if (made) await programme.edit('cellIds', 'a second cell', (now) => [...now, made.id]);
}
const remove = (index: number) =>
  void programme.edit('cellIds', `cell taken away: ${cells.value[index]!.name}`, (now) => now.filter((_, i) => i !== index));
const KIND = { inertia: 'inertia roller', brake: 'brake', hub: 'hub', engine: 'engine', road: 'road' };
const POWER_AT = { wheel: 'at the wheel', hub: 'at the hub', crank: 'at the crank' };
const numbers = [
  {
    key: 'repeatabilityPct',
    label: 'Repeatability',
    unit: '%',
    why: 'Standard deviation of one pull against the next with nothing changed. Unknown: a cautious default is used; later it comes from the cell’s own history.',
  },
  {
    key: 'driftPctPerHour',
    label: 'Drift',
    unit: '%',
    why: 'Standard deviation of the drift, per cent an hour. Later from the cell’s own history.',
  },
  { key: 'rollerInertiaKgM2', label: 'Roller inertia', unit: '–', why: 'kg·m² of everything that turns with the roller.' },
  {
    key: 'elevationM',
    label: 'Elevation',
    unit: 'm',
    why: 'Above the sea: a pressure from a weather service is reduced to sea level and must be brought back.',
  },
] as const;
const texts = [
  { key: 'smoothing', label: 'Smoothing', why: 'As set on the dyno: heavy smoothing hides a wobble and moves a peak.' },
  { key: 'rampOrLoad', label: 'Ramp or load', why: 'Ramp of a brake in rpm a second, or load setting: the same for every pull.' },
  { key: 'fans', label: 'Fans', why: 'Number, place, air speed at the opening.' },
  { key: 'timeZone', label: 'Time zone', why: 'Such as Europe/Oslo: clock times on the tide strip.' },
] as const;
const positive = (key: string) => key !== 'elevationM';
const problemOf = (index: number, key: string) =>
  positive(key) && draft.value[`${index}${key}`] != null && !(draft.value[`${index}${key}`]! > 0) ? 'It must be above zero.' : null;
function setNumber(index: number, key: (typeof numbers)[number]['key'], label: string, value: number | null): void {
  if (value !== null && positive(key) && !(value > 0)) return;
  set(index, label.toLowerCase(), { [key]: value });
}
const zoneProblem = ref(false);
function setText(index: number, key: (typeof texts)[number]['key'], label: string, value: string): void {
  if (key === 'timeZone' && value) {
    try {
      new Intl.DateTimeFormat('en', { timeZone: value });
    } catch {
      zoneProblem.value = true;
      return;
    }
  }
  zoneProblem.value = false;
  set(index, label.toLowerCase(), { [key]: value || null });
}
</script>

<template>
  <section aria-label="Cell">
    <h2>{{ cells.length > 1 ? 'Cells' : 'Cell' }}</h2>
    <FieldRow
      v-if="Object.keys(others).length"
      label="Take a known cell"
      why="Cells are shared by programmes; what is known of their repeatability goes with them."
    >
      <ChoiceInput :model-value="null" :choices="others" label="Take a known cell" placeholder="choose…" @update:model-value="useInstead" />
    </FieldRow>
    <div v-for="(cell, index) in cells" :key="view.cellIds[index]" class="cell">
      <FieldRow label="Name" why="Dyno and place.">
        <TextEdit
          :model-value="cell.name === UNNAMED_CELL ? '' : cell.name"
          :label="cells.length > 1 ? `Name of cell ${index + 1}` : 'Name of the cell'"
          placeholder="Unnamed cell"
          @commit="set(index, 'name', { name: $event || UNNAMED_CELL })"
        />
      </FieldRow>
      <FieldRow label="Kind" why="An inertia roller sees no steady load; an engine dyno no tyres.">
        <ChoiceInput
          :model-value="cell.kind"
          :choices="KIND"
          :label="`Kind of cell ${index + 1}`"
          @update:model-value="set(index, 'kind', { kind: $event as Cell['kind'] })"
        />
      </FieldRow>
      <FieldRow label="Power measured" why="Differences travel between places, absolute figures do not: no loss is ever added back.">
        <ChoiceInput
          :model-value="cell.powerAt"
          :choices="POWER_AT"
          :label="`Where power is measured, cell ${index + 1}`"
          @update:model-value="set(index, 'place of power', { powerAt: $event as Cell['powerAt'] })"
        />
      </FieldRow>
      <FieldRow v-for="field in numbers.slice(0, moreOpen ? numbers.length : 1)" :key="field.key" :label="field.label" :why="field.why">
        <NumberInput
          :model-value="cell[field.key] ?? null"
          :unit="field.unit"
          :label="`${field.label} of cell ${index + 1}`"
          :problem="problemOf(index, field.key)"
          optional
          placeholder="not known"
          @update:model-value="draft[`${index}${field.key}`] = $event"
          @commit="setNumber(index, field.key, field.label, $event)"
        />
        <span v-if="field.key === 'driftPctPerHour'" class="muted small">an hour</span>
        <span v-if="field.key === 'rollerInertiaKgM2'" class="muted small">kg·m²</span>
      </FieldRow>
      <template v-if="moreOpen">
        <FieldRow v-for="field in texts" :key="field.key" :label="field.label" :why="field.why">
          <TextEdit
            :model-value="cell[field.key]"
            :label="`${field.label} of cell ${index + 1}`"
            placeholder="not said"
            @commit="setText(index, field.key, field.label, $event)"
          />
          <span v-if="field.key === 'timeZone' && zoneProblem" class="problem" role="alert"
            >No such time zone. Write it as Europe/Oslo.</span
          >
        </FieldRow>
        <SensorTable :cell="cell" @change="(what, change) => setSensors(index, what, change)" />
        <Button v-if="cells.length > 1" text size="small" label="Take this cell away" @click="remove(index)" />
      </template>
    </div>
    <Button
      text
      size="small"
      :label="moreOpen ? 'Less' : 'Drift, smoothing, fans, sensors…'"
      :aria-expanded="moreOpen"
      @click="moreOpen = !moreOpen"
    />
    <Button v-if="moreOpen" text size="small" icon="pi pi-plus" label="Another cell" @click="addCell" />
    <p v-if="view.cellsSharedBy.length" class="small muted">
      Shared: a change here is a change for {{ view.cellsSharedBy.map(({ title }) => title).join(', ') }} too.
    </p>
  </section>
</template>

<style scoped>
.cell + .cell {
  border-top: 1px solid var(--line);
  margin-top: 0.4rem;
  padding-top: 0.4rem;
}
.problem {
  color: var(--brick);
  font-size: 13px;
}
</style>
