<script setup lang="ts">
import { assumptionsFor, plain, steadyCooler, steadyCoolerText, stretchOf, type Stretch } from '@gezeit/core';
import type { Quantity } from '@gezeit/contract';
import { computed } from 'vue';
import { useProgramme } from '../../../model/programme-store.js';
import { useShow } from '../../../shared/units/use-show.js';
import { useDesk } from './desk-store.js';
import { sampleKey, type DeskSamples } from './use-desk-samples.js';

/** Effectiveness and heat of the charge cooler over the stretch that is seen, as of a steady load, where what they need is drawn. */
const props = defineProps<{ samples: DeskSamples; stretch: readonly [number, number] }>();
const programme = useProgramme();
const desk = useDesk();
const show = useShow();

const IN: readonly Quantity[] = ['compressorOutTemperature'];
const OUT: readonly Quantity[] = ['coolerOutTemperature', 'intakeAirTemperature'];
const COLD: readonly Quantity[] = ['coolantInTemperature', 'coolingAirTemperature', 'ambientTemperature'];
const sensors = computed(() => assumptionsFor(programme.view!.bundle).sensors);
const channelOf = (quantities: readonly Quantity[], keys: readonly string[] | null) =>
  quantities
    .map((quantity) => desk.channels.find((entry) => entry.quantity === quantity && (keys === null || keys.includes(entry.key))))
    .find((entry) => entry !== undefined) ?? null;

/** What is logged of a cooler's means, whether or not it is drawn. */
const logged = computed(() => [IN, OUT, COLD].map((quantities) => channelOf(quantities, null)));
const lacking = computed(() =>
  logged.value.flatMap((channel) => (channel && !desk.drawnKeys.includes(channel.key) ? [channel.label] : [])),
);
const rows = computed(() =>
  desk.pulls.flatMap(({ id }) => {
    const meanOf = (quantities: readonly Quantity[]): Stretch['mean'] | null => {
      const channel = channelOf(quantities, desk.drawnKeys);
      const series = channel && props.samples.get(sampleKey(id, channel.key));
      return (series && stretchOf(series, ...props.stretch)?.mean) ?? null;
    };
    const [inC, outC, coldC] = [IN, OUT, COLD].map(meanOf);
    const found = inC && outC && coldC && steadyCooler(inC, outC, coldC, meanOf(['airMassFlow']), sensors.value);
    return found ? [steadyCoolerText(id, found, channelOf(COLD, desk.drawnKeys)!.label, show.value.words)] : [];
  }),
);
</script>

<template>
  <div v-if="logged.every(Boolean)" class="small" aria-label="The cooler over what is seen">
    <p v-for="text in rows" :key="text">{{ text }}</p>
    <p v-if="rows.length === 0 && lacking.length > 0" class="muted">
      Draw {{ lacking.join(', ') }} too: then the cooler’s effectiveness is told.
    </p>
    <p v-else-if="rows.length > 0" class="muted">
      As of a steady load: where temperatures still move, the core’s own heat is in it. Sensors: ± {{ plain(sensors.temperatureK, 1) }} K, ±
      {{ plain(100 * sensors.flowShare, 0) }} % of flow.
    </p>
  </div>
</template>

<style scoped>
p {
  margin: 0.2rem 0;
}
</style>
