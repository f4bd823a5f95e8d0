<script setup lang="ts">
import { channelWord, channelZeros, sentence, weatherNow } from '@gezeit/core';
import Button from 'primevue/button';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** Zeros of the pressure channels with the engine off; whether gauge or absolute follows from them. */
const day = useDay();
const show = useShow();
const PRESSURES = ['manifoldPressure', 'boostPressure', 'inletPressure', 'pressureDrop'];
const now = computed(() =>
  Object.fromEntries(day.readings.filter(({ quantity }) => PRESSURES.includes(quantity)).map(({ quantity, value }) => [quantity, value])),
);
const engineRuns = computed(() => (day.readings.find(({ quantity }) => quantity === 'engineSpeed')?.value ?? 0) > 50);
const ambientPa = computed(() => (weatherNow(day.state, day.readings).weather.pressureKPa ?? 0) * 1000);
const zeros = computed(() => channelZeros(day.state.zeros, ambientPa.value || null));
const store = () => day.act({ kind: 'zero', channels: now.value });
const pa = (value: number | null) => (value === null ? '–' : show.value.pressure(value / 1000, 2));
</script>

<template>
  <CellDialog name="zero" header="Zero of the pressure channels">
    <p>With the engine off, at the start and after each swap. {{ engineRuns ? 'The engine runs: switch it off first.' : '' }}</p>
    <p v-if="Object.keys(now).length === 0" class="muted">No pressure channel is streamed. Add a device first.</p>
    <table v-else class="dense">
      <thead>
        <tr>
          <th>Channel</th>
          <th class="number">Reads now, {{ show.units.pressure }}</th>
          <th>It is</th>
          <th class="number">Zero</th>
          <th class="number">Drift today</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(value, channel) in now" :key="channel">
          <td>{{ sentence(channelWord(String(channel))) }}</td>
          <td class="number">{{ show.pressure(value / 1000) }}</td>
          <td>{{ zeros.find((zero) => zero.channel === channel)?.kind ?? 'not stored yet' }}</td>
          <td class="number">{{ pa(zeros.find((zero) => zero.channel === channel)?.zeroPa ?? null) }}</td>
          <td class="number">{{ pa(zeros.find((zero) => zero.channel === channel)?.driftPa ?? null) }}</td>
        </tr>
      </tbody>
    </table>
    <template #actions>
      <Button text label="Close" @click="day.dialog = null" />
      <Button label="Store the zero" :disabled="Object.keys(now).length === 0 || engineRuns" @click="store" />
    </template>
  </CellDialog>
</template>
