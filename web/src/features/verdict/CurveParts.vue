<script setup lang="ts">
import type { DifferenceCurve } from '@gezeit/contract';
import { bandPartLabel, READS_AS, shapeText, signed, tied } from '@gezeit/core';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';

/** What the shape of a difference says: where it is real, part by part, where the peaks stand, and what it fits. */
const props = defineProps<{ difference: DifferenceCurve; withheld: boolean }>();
const show = useShow();
const shape = computed(() => shapeText(props.difference, props.withheld, show.value.words));
const rows = computed(() =>
  props.difference.parts.map((part) => ({
    key: `${part.kind} ${part.metric} ${part.fromRpm} ${part.toRpm}`,
    label: bandPartLabel(part, show.value.words),
    figure: tied(signed(part.estimate.pct), '%'),
    range: `${signed(part.estimate.low)} to ${signed(part.estimate.high)}`,
    reads: READS_AS[part.answer],
  })),
);
</script>

<template>
  <div class="parts">
    <p>
      {{ shape }}
      <span v-if="!withheld && difference.hints.length" class="muted">A shape is a hint, never a proof.</span>
    </p>
    <details>
      <summary class="small">
        In parts of the band, by other metrics{{ difference.parts.some(({ kind }) => kind === 'claimed') ? ', where it was claimed' : '' }}
      </summary>
      <table class="dense small figures">
        <tbody>
          <tr v-for="row in rows" :key="row.key">
            <td>{{ row.label }}</td>
            <td class="number">{{ row.figure }}</td>
            <td class="muted number">{{ row.range }}</td>
            <td v-if="!withheld">{{ row.reads }}</td>
          </tr>
        </tbody>
      </table>
      <p class="small muted">
        Each with its own 95 % interval, from the same pulls and the same start. The area under the curve is the mean times the band.
      </p>
    </details>
  </div>
</template>

<style scoped>
p {
  margin: 0.2rem 0;
}
summary {
  cursor: pointer;
  color: var(--muted);
}
.number {
  text-align: right;
  white-space: nowrap;
}
</style>
