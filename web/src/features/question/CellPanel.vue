<script setup lang="ts">
import type { Cell, CellEntry } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { api } from '../../shared/api/client.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import FieldSet from '../../shared/form/FieldSet.vue';
import { useProgramme } from '../../model/programme-store.js';
import { cellChange, cellFields, cellValues } from './cell-fields.js';
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
const fieldsOf = (index: number) => cellFields(index + 1, cells.value.length === 1).filter(({ isMore }) => moreOpen.value || !isMore);
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
      <FieldSet
        :fields="fieldsOf(index)"
        :values="cellValues(cell)"
        @set="(name, value, label) => set(index, label.toLowerCase(), cellChange(name, value))"
      />
      <template v-if="moreOpen">
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
</style>
