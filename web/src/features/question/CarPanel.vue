<script setup lang="ts">
import type { Vehicle, VehicleEntry } from '@gezeit/contract';
import { UNNAMED_CAR } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { api } from '../../shared/api/client.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { useProgramme } from '../../model/programme-store.js';
import { ASPIRATION_WORDS, CONTROL_WORDS } from '../../shared/question-words.js';
import { ratiosFromText, ratiosText } from './ratios.js';
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
/** Numbers whose field is kept in a unit of its own: factor to the unit kept inside. */
const draft = ref<Partial<Record<string, number | null>>>({});
const numbers = [
  {
    key: 'displacementL',
    label: 'Displacement',
    unit: 'L',
    factor: 1e-3,
    why: 'Swept volume: air demand and restriction budget are made from it.',
  },
  { key: 'cylinders', label: 'Cylinders', unit: '–', factor: 1, why: 'For the record, and for injectors.' },
  { key: 'maxRpm', label: 'Redline', unit: 'rpm', factor: 1, why: 'The band ends below it.' },
  {
    key: 'finalDrive',
    label: 'Final drive',
    unit: '–',
    factor: 1,
    why: 'With gear and tyre it ties roller speed to engine speed: slip is seen by it.',
  },
  { key: 'tyreRadiusM', label: 'Tyre radius', unit: 'm', factor: 1, why: 'Rolling radius.' },
  { key: 'massKg', label: 'Mass', unit: 'kg', factor: 1, why: 'As weighed; for pulls on a road.' },
  { key: 'dragAreaM2', label: 'Drag area', unit: 'm²', factor: 1, why: 'Drag coefficient times frontal area; for pulls on a road.' },
] as const;
type NumberKey = (typeof numbers)[number]['key'];
const valueOf = (key: NumberKey, factor: number) => (vehicle.value[key] == null ? null : vehicle.value[key]! * factor);
function setNumber(key: NumberKey, label: string, value: number | null, factor: number): void {
  if (value !== null && !(value > 0)) return;
  const own = value === null ? null : Number((value / factor).toPrecision(8));
  set(label.toLowerCase(), { [key]: key === 'cylinders' && own !== null ? Math.round(own) : own });
}
const IGNITION = { spark: 'spark', compression: 'compression' };
const METERING = { meter: 'air meter', 'speed-density': 'speed and density' };
const problemOf = (key: string) => (draft.value[key] != null && !(draft.value[key]! > 0) ? 'It must be above zero.' : null);
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
    <FieldRow label="Name" why="As you speak of it: body, engine. No plate and no owner.">
      <TextEdit
        :model-value="vehicle.name === UNNAMED_CAR ? '' : vehicle.name"
        label="Name of the car"
        placeholder="Unnamed car"
        @commit="set('name', { name: $event || UNNAMED_CAR })"
      />
    </FieldRow>
    <FieldRow label="Aspiration" why="It decides how heat, spark and pressure enter the judgement.">
      <ChoiceInput
        :model-value="vehicle.aspiration"
        :choices="ASPIRATION_WORDS"
        label="Aspiration"
        @update:model-value="set('aspiration', { aspiration: $event as Vehicle['aspiration'] })"
      />
    </FieldRow>
    <FieldRow
      v-if="vehicle.aspiration !== 'na'"
      label="Boost control"
      why="On an absolute one no weather correction is proposed: the engine holds its manifold pressure whatever the weather."
    >
      <ChoiceInput
        :model-value="vehicle.boostControl"
        :choices="CONTROL_WORDS"
        label="Boost control"
        @update:model-value="set('boost control', { boostControl: $event as Vehicle['boostControl'] })"
      />
    </FieldRow>
    <FieldRow v-for="field in numbers.slice(0, moreOpen ? numbers.length : 3)" :key="field.key" :label="field.label" :why="field.why">
      <NumberInput
        :model-value="valueOf(field.key, field.factor)"
        :unit="field.unit"
        :label="field.label"
        :problem="problemOf(field.key)"
        optional
        placeholder="not said"
        @update:model-value="draft[field.key] = $event"
        @commit="setNumber(field.key, field.label, $event, field.factor)"
      />
    </FieldRow>
    <template v-if="moreOpen">
      <FieldRow label="Ignition" why="Compression ignition has a correction of its own.">
        <ChoiceInput
          :model-value="vehicle.ignition"
          :choices="IGNITION"
          label="Ignition"
          @update:model-value="set('ignition', { ignition: $event as Vehicle['ignition'] })"
        />
      </FieldRow>
      <FieldRow label="Air metering" why="With a meter, a new housing can shift it: more air read is not more air.">
        <ChoiceInput
          :model-value="vehicle.airMetering"
          :choices="METERING"
          label="Air metering"
          @update:model-value="set('air metering', { airMetering: $event as Vehicle['airMetering'] })"
        />
      </FieldRow>
      <FieldRow label="Fuel" why="What it is meant to run on.">
        <TextEdit :model-value="vehicle.fuel" label="Fuel" placeholder="not said" @commit="set('fuel', { fuel: $event || null })" />
      </FieldRow>
      <FieldRow label="Gearbox" why="Kind, and the ratios from first to last.">
        <TextEdit
          :model-value="vehicle.gearbox"
          label="Gearbox"
          placeholder="manual"
          @commit="set('gearbox', { gearbox: $event || null })"
        />
      </FieldRow>
      <FieldRow label="Gear ratios" why="First to last, separated by spaces: 3.6 2.1 1.4 1.0.">
        <TextEdit
          :model-value="ratiosText(vehicle.gearRatios)"
          label="Gear ratios"
          placeholder="3.6 2.1 1.4 1.0"
          @commit="set('gear ratios', { gearRatios: ratiosFromText($event) })"
        />
      </FieldRow>
      <FieldRow label="Gear of the test" why="Nearest to 1:1, over the full range of speeds.">
        <TextEdit
          :model-value="vehicle.testGear"
          label="Gear of the test"
          placeholder="4"
          @commit="set('gear of the test', { testGear: $event || null })"
        />
      </FieldRow>
      <FieldRow label="Tyre" why="Size as printed on it.">
        <TextEdit :model-value="vehicle.tyre" label="Tyre" placeholder="not said" @commit="set('tyre', { tyre: $event || null })" />
      </FieldRow>
      <DayRows />
    </template>
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
