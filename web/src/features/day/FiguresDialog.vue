<script setup lang="ts">
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import { api, ApiFailure } from '../../shared/api/client.js';
import { refusedField } from '../../shared/form/refused-field.js';
import FigureFields from '../../parts/FigureFields.vue';
import { figureForm, openInForm, typedFigures } from '../../parts/figure-form.js';
import { useProgramme } from '../../model/programme-store.js';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** Figures read off a cell's screen or sheet where it gives no file, with a photo. */
const props = defineProps<{ pull: string | null }>();
const day = useDay();
const programme = useProgramme();
const form = ref(figureForm(null));
const photo = ref<File | null>(null);
const busy = ref(false);
const entry = computed(() => day.state.pulls.find(({ id }) => id === props.pull) ?? null);
watch(
  () => day.dialog === 'figures',
  () => {
    form.value = figureForm(entry.value?.typed);
    photo.value = null;
  },
);
const isOpen = computed(() => openInForm(form.value) !== null);
const choose = (event: Event) => (photo.value = (event.target as HTMLInputElement).files?.[0] ?? null);

async function keep(): Promise<void> {
  if (!props.pull || isOpen.value || refusedField()) return;
  busy.value = true;
  try {
    const file = photo.value ? await api.attach(programme.view!.id, photo.value) : (entry.value?.typed?.photo ?? null);
    const done = await day.act({ kind: 'pull-amended', pull: props.pull, typed: typedFigures(form.value, file) });
    if (done) day.dialog = null;
  } catch (error) {
    day.failure = ApiFailure.of(error, 'The photo could not be kept.', 'Try again.');
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <CellDialog name="figures" :header="`Figures of pull ${pull ?? ''}`" width="40rem">
    <form @submit.prevent="keep">
      <FigureFields v-model="form">
        <span>Photo of the screen or sheet</span
        ><input type="file" accept="image/*,.pdf" aria-label="Photo of the screen or sheet" @change="choose" />
      </FigureFields>
      <button type="submit" hidden />
    </form>
    <template #actions>
      <Button text label="Close" @click="day.dialog = null" />
      <Button label="Keep the figures" :disabled="isOpen" :loading="busy" @click="keep" />
    </template>
  </CellDialog>
</template>
