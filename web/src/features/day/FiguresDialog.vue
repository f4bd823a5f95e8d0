<script setup lang="ts">
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import { api, ApiFailure } from '../../shared/api/client.js';
import { refusedField } from '../../shared/ui/refused-field.js';
import NumberInput from '../../shared/ui/NumberInput.vue';
import { useProgramme } from '../programme/programme-store.js';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** Figures read off a cell's screen or sheet where it gives no file: peak, band figure, curve points, with a photo. */
const props = defineProps<{ pull: string | null }>();
const day = useDay();
const programme = useProgramme();
const peakW = ref<number | null>(null);
const peakRpm = ref<number | null>(null);
const bandW = ref<number | null>(null);
const points = ref<{ rpm: number | null; powerW: number | null }[]>([]);
const photo = ref<File | null>(null);
const busy = ref(false);
const entry = computed(() => day.state.pulls.find(({ id }) => id === props.pull) ?? null);
watch(
  () => day.dialog === 'figures',
  () => {
    const typed = entry.value?.typed;
    peakW.value = typed?.peakPowerKW == null ? null : typed.peakPowerKW * 1000;
    peakRpm.value = typed?.peakPowerRpm ?? null;
    bandW.value = typed?.bandMeanPowerKW == null ? null : typed.bandMeanPowerKW * 1000;
    points.value = (typed?.points ?? []).map(({ rpm, powerKW }) => ({ rpm, powerW: powerKW * 1000 }));
    photo.value = null;
  },
);
const known = computed(() =>
  points.value.filter((point): point is { rpm: number; powerW: number } => point.rpm !== null && point.powerW !== null),
);
const isHalf = computed(() => points.value.some(({ rpm, powerW }) => (rpm === null) !== (powerW === null)));
const isEmpty = computed(() => peakW.value === null && bandW.value === null && known.value.length === 0);
const choose = (event: Event) => (photo.value = (event.target as HTMLInputElement).files?.[0] ?? null);

async function keep(): Promise<void> {
  if (!props.pull || isEmpty.value || isHalf.value || refusedField()) return;
  busy.value = true;
  try {
    const file = photo.value ? await api.attach(programme.view!.id, photo.value) : (entry.value?.typed?.photo ?? null);
    const kW = (watt: number | null) => (watt === null ? null : watt / 1000);
    const done = await day.act({
      kind: 'pull-amended',
      pull: props.pull,
      typed: {
        peakPowerKW: kW(peakW.value),
        peakPowerRpm: peakRpm.value,
        bandMeanPowerKW: kW(bandW.value),
        points: known.value.map(({ rpm, powerW }) => ({ rpm, powerKW: powerW / 1000 })),
        photo: file,
      },
    });
    if (done) day.dialog = null;
  } catch (error) {
    day.failure = error instanceof ApiFailure ? error : new ApiFailure('The photo could not be kept.', 'Try again.');
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <CellDialog name="figures" :header="`Figures of pull ${pull ?? ''}`">
    <p class="muted">Uncorrected, as the cell’s screen or sheet gives them. They are marked as typed everywhere.</p>
    <form class="fields" @submit.prevent="keep">
      <span>Peak power</span><NumberInput v-model="peakW" unit="kW" label="Peak power" :least="1" optional /> <span>at</span
      ><NumberInput v-model="peakRpm" unit="rpm" label="Engine speed of the peak" :least="1" optional /> <span>Mean over the band</span
      ><NumberInput v-model="bandW" unit="kW" label="Mean power over the band" :least="1" optional />
      <template v-for="(point, i) in points" :key="i">
        <NumberInput v-model="point.rpm" unit="rpm" :label="`Engine speed of point ${i + 1}`" :least="1" optional />
        <NumberInput v-model="point.powerW" unit="kW" :label="`Power of point ${i + 1}`" :least="1" optional />
      </template>
      <p v-if="isHalf" class="half" role="alert">A point of the curve needs its engine speed and its power.</p>
      <Button text size="small" icon="pi pi-plus" label="Point of the curve" @click="points.push({ rpm: null, powerW: null })" /><span />
      <span>Photo of the screen or sheet</span
      ><input type="file" accept="image/*,.pdf" aria-label="Photo of the screen or sheet" @change="choose" />
      <button type="submit" hidden />
    </form>
    <template #actions>
      <Button text label="Close" @click="day.dialog = null" />
      <Button label="Keep the figures" :disabled="isEmpty || isHalf" :loading="busy" @click="keep" />
    </template>
  </CellDialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 13rem 1fr;
  gap: 0.4rem 0.8rem;
  align-items: baseline;
  margin-top: 0.6rem;
}
.half {
  grid-column: 1 / -1;
  color: var(--brick);
}
</style>
