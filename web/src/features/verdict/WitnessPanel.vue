<script setup lang="ts">
import type { Comparison, Witness } from '@gezeit/contract';
import { AGREES_WORDS, channelFigure, witnessLabel } from '@gezeit/core';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';

/** What else has seen the change, and whether it says what power says. */
const props = defineProps<{ comparison: Comparison }>();
const show = useShow();
const figure = ({ kind, value, low, high }: Witness) => {
  const text = (entry: number) => channelFigure(kind, entry, show.value.words);
  return { value: text(value), range: low === null || high === null ? 'nothing repeated' : `${text(low)} to ${text(high)}` };
};
const rows = computed(() =>
  props.comparison.witnesses.map((witness) => ({ ...witness, label: witnessLabel(witness.code), ...figure(witness) })),
);
</script>

<template>
  <section>
    <h2>Other witnesses</h2>
    <table v-if="rows.length" class="dense small figures">
      <tbody>
        <tr v-for="row in rows" :key="row.code">
          <td>{{ row.label }}</td>
          <td class="number">{{ row.value }}</td>
          <td class="muted range">{{ row.range }}</td>
          <td>
            <span aria-hidden="true">{{ { agrees: '=', apart: '≠', 'cannot-tell': '·' }[row.agrees] }}</span> {{ AGREES_WORDS[row.agrees] }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="small muted">No air mass flow, injector time, inlet pressure, pressure drop or ignition is logged with every pull.</p>
  </section>
</template>

<style scoped>
.number {
  text-align: right;
  white-space: nowrap;
}
.range {
  white-space: nowrap;
}
</style>
