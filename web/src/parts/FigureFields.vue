<script setup lang="ts">
import { CORRECTION_NAMES } from '@gezeit/core';
import Button from 'primevue/button';
import { computed } from 'vue';
import ChoiceInput from '../shared/form/ChoiceInput.vue';
import NumberInput from '../shared/form/NumberInput.vue';
import { useShow } from '../shared/units/use-show.js';
import { hasHalfPoint, neededFigures, openInForm, type FigureForm } from './figure-form.js';
import { useProgramme } from '../model/programme-store.js';

/** Figures read off a cell's screen or sheet: peaks, means over the band, points of the curve, and what they are corrected by. */
const form = defineModel<FigureForm>({ required: true });
const programme = useProgramme();
const show = useShow();
const asked = computed(() => programme.view!.bundle.programme);
const open = computed(() => openInForm(form.value));
</script>

<template>
  <p class="muted">
    The questions need {{ neededFigures(asked) }} (the band is {{ show.words.band(asked.bandRpm) }}): other figures are kept, but do not
    answer them. They are marked as typed everywhere.
  </p>
  <div class="fields">
    <span>Corrected by</span>
    <ChoiceInput
      :model-value="form.corrected"
      :choices="CORRECTION_NAMES"
      label="What the figures are corrected by"
      placeholder="as the sheet says"
      @update:model-value="form.corrected = $event as FigureForm['corrected']"
    />
    <span>Mean power over the band</span><NumberInput v-model="form.bandW" unit="kW" label="Mean power over the band" :least="1" optional />
    <span>Peak power, at</span>
    <span class="pair">
      <NumberInput v-model="form.peakW" unit="kW" label="Peak power" :least="1" optional />
      <NumberInput v-model="form.peakRpm" unit="rpm" label="Engine speed of the peak" :least="1" optional />
    </span>
    <span>Mean torque over the band</span
    ><NumberInput v-model="form.bandTorqueNm" unit="N·m" label="Mean torque over the band" :least="1" optional />
    <span>Peak torque, at</span>
    <span class="pair">
      <NumberInput v-model="form.peakTorqueNm" unit="N·m" label="Peak torque" :least="1" optional />
      <NumberInput v-model="form.peakTorqueRpm" unit="rpm" label="Engine speed of the peak torque" :least="1" optional />
    </span>
    <template v-for="(point, i) in form.points" :key="i">
      <span>Point {{ i + 1 }} of the curve</span>
      <span class="pair">
        <NumberInput v-model="point.rpm" unit="rpm" :label="`Engine speed of point ${i + 1}`" :least="1" optional />
        <NumberInput v-model="point.powerW" unit="kW" :label="`Power of point ${i + 1}`" :least="1" optional />
      </span>
    </template>
    <span />
    <Button
      text
      size="small"
      class="add"
      icon="pi pi-plus"
      label="Point of the curve"
      @click="form.points.push({ rpm: null, powerW: null })"
    />
    <p v-if="open" class="open" :role="hasHalfPoint(form) ? 'alert' : 'status'">{{ open }}</p>
    <slot />
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 13rem 1fr;
  gap: 0.4rem 0.8rem;
  align-items: baseline;
  margin-top: 0.6rem;
}
.pair {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 0.8rem;
}
.add {
  justify-self: start;
}
.open {
  grid-column: 1 / -1;
}
@media (max-width: 700px) {
  .fields {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
