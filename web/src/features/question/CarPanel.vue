<script setup lang="ts">
import type { Vehicle, VehicleEntry } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { api } from '../../shared/api/client.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import FieldSet from '../../shared/form/FieldSet.vue';
import { useProgramme } from '../../model/programme-store.js';
import { carChange, carFields, carValues } from './car-fields.js';
import DayRows from './DayRows.vue';

/** The car: shared by programmes, so that what is written once is there for the next part. */
const programme = useProgramme();
const view = computed(() => programme.view!);
const vehicle = computed(() => view.value.bundle.vehicle);
const known = shallowRef<VehicleEntry[]>([]);
const load = async () => (known.value = await api.vehicles().catch(() => []));
onMounted(load);
watch(() => view.value.vehicleId, load);
const others = computed(() =>
  Object.fromEntries(known.value.filter(({ id }) => id !== view.value.vehicleId).map(({ id, vehicle: car }) => [id, car.name])),
);
const moreOpen = ref(false);

function set(what: string, change: Partial<Vehicle>): void {
  void programme.edit('vehicle', `car: ${what}`, (now) => ({ ...now, ...change }));
}
const choose = (id: string) => void programme.edit('vehicleId', `car chosen: ${others.value[id]}`, () => id);
async function copy(): Promise<void> {
  const made = await programme.request(() => api.addVehicle({ ...vehicle.value, name: `${vehicle.value.name}, second` }));
  if (made) await programme.edit('vehicleId', 'a car of its own', () => made.id);
}
const fields = computed(() => carFields(vehicle.value).filter(({ isMore }) => moreOpen.value || !isMore));
const values = computed(() => carValues(vehicle.value));
</script>

<template>
  <section aria-label="Car">
    <h2>Car</h2>
    <FieldRow
      v-if="Object.keys(others).length"
      label="Take a known car"
      why="Cars are shared by programmes: what is known of one need not be written again."
    >
      <ChoiceInput :model-value="null" :choices="others" label="Take a known car" placeholder="choose…" @update:model-value="choose" />
    </FieldRow>
    <FieldSet :fields="fields" :values="values" @set="(name, value, label) => set(label.toLowerCase(), carChange(name, value))" />
    <DayRows v-if="moreOpen" />
    <Button
      text
      size="small"
      :label="moreOpen ? 'Less' : 'Gears, tyre, mass, odometer…'"
      :aria-expanded="moreOpen"
      @click="moreOpen = !moreOpen"
    />
    <p v-if="view.vehicleSharedBy.length" class="small muted">
      Shared: a change here is a change for {{ view.vehicleSharedBy.map(({ title }) => title).join(', ') }} too.
      <Button text size="small" label="Use a copy" @click="copy" />
    </p>
  </section>
</template>
