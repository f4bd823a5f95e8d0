<script setup lang="ts">
import type { CellEntry, VehicleEntry } from '@gezeit/contract';
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { api, ApiFailure } from '../../shared/api/client.js';
import { usePerson } from '../../shared/person-store.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FailureNote from '../../shared/ui/FailureNote.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import { ASPIRATION_WORDS } from '../../shared/question-words.js';
import { useNewProgramme } from '../../model/new-programme-store.js';

/** Begins a programme: a title, a car, a cell. Everything else is written on its first page. */
const dialog = useNewProgramme();
const person = usePerson();
const router = useRouter();
const title = ref('');
const vehicleId = ref('new');
const cellId = ref('new');
const aspiration = ref('na');
const vehicles = shallowRef<VehicleEntry[]>([]);
const cells = shallowRef<CellEntry[]>([]);
const failure = shallowRef<ApiFailure | null>(null);
const busy = ref(false);
const cars = computed(() => ({ new: 'a new car', ...Object.fromEntries(vehicles.value.map(({ id, vehicle }) => [id, vehicle.name])) }));
const places = computed(() => ({ new: 'a new cell', ...Object.fromEntries(cells.value.map(({ id, cell }) => [id, cell.name])) }));

watch(
  () => dialog.open,
  async (open) => {
    if (!open) return;
    title.value = '';
    vehicleId.value = cellId.value = 'new';
    aspiration.value = 'na';
    failure.value = null;
    [vehicles.value, cells.value] = await Promise.all([api.vehicles().catch(() => []), api.cells().catch(() => [])]);
  },
);

async function begin(): Promise<void> {
  if (title.value.trim() === '' || !(await person.ensure())) return;
  busy.value = true;
  try {
    const known = (id: string) => (id === 'new' ? null : id);
    const { id } = await api.createProgramme({
      title: title.value.trim(),
      aspiration: aspiration.value,
      vehicleId: known(vehicleId.value),
      cellId: known(cellId.value),
    });
    dialog.open = false;
    await router.push({ name: 'question', params: { id } });
  } catch (error) {
    failure.value = ApiFailure.of(error, 'The programme could not be begun.', 'Try again.');
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <Dialog v-model:visible="dialog.open" modal header="New programme" :style="{ width: '34rem' }">
    <form class="fields" @submit.prevent="begin">
      <FieldRow always label="Title" why="The part and the car, as you would look for it years later.">
        <InputText
          v-model="title"
          autofocus
          maxlength="200"
          aria-label="Title"
          autocomplete="off"
          class="title"
          placeholder="Sealed airbox, small estate"
        />
      </FieldRow>
      <FieldRow always label="Car" why="Cars are shared: take one that is known, or begin a new one.">
        <ChoiceInput v-model="vehicleId" :choices="cars" label="Car" />
      </FieldRow>
      <FieldRow v-if="vehicleId === 'new'" always label="Engine" why="Band, correction and limits are proposed by it.">
        <ChoiceInput v-model="aspiration" :choices="ASPIRATION_WORDS" label="Engine" />
      </FieldRow>
      <FieldRow always label="Cell" why="Where it will be run; it can be said later.">
        <ChoiceInput v-model="cellId" :choices="places" label="Cell" />
      </FieldRow>
      <FailureNote v-if="failure" :failure="failure" />
      <div class="actions">
        <Button type="button" text label="Close" @click="dialog.open = false" />
        <Button type="submit" label="Begin" :disabled="title.trim() === ''" :loading="busy" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 0.3rem;
}
.title {
  width: 100%;
}
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 0.5rem;
  margin-top: 0.6rem;
}
</style>
