<script setup lang="ts">
import type { BandPart, DifferenceCurve } from '@gezeit/contract';
import { HINT_WORDS, METRIC_WORDS, READS_AS, signed, tied } from '@gezeit/core';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';

/** What the shape of a difference says: where it is real, part by part, where the peaks stand, and what it fits. */
const props = defineProps<{ difference: DifferenceCurve; withheld: boolean }>();
const show = useShow();
const range = (fromRpm: number, toRpm: number) => show.value.words.band([fromRpm, toRpm]);
const real = computed(() => {
  const of = (isLoss: boolean) =>
    props.difference.real.filter((entry) => entry.isLoss === isLoss).map(({ fromRpm, toRpm }) => range(fromRpm, toRpm));
  const [gains, losses] = [of(false), of(true)];
  if (gains.length + losses.length === 0) return 'Nowhere does the band of the whole curve leave zero.';
  return [
    ...(gains.length > 0 ? [`${props.withheld ? 'Measured all the same, above zero' : 'Real gain'}: ${gains.join('; ')}.`] : []),
    ...(losses.length > 0 ? [`${props.withheld ? 'Below zero' : 'Real loss'}: ${losses.join('; ')}.`] : []),
  ].join(' ');
});
const peak = computed(() => {
  const move = props.difference.peak;
  if (!move) return '';
  const rpm = show.value.words.rpm;
  if (move.moved) return `The peak of power has moved from ${rpm(move.referenceRpm)} to ${rpm(move.candidateRpm)}.`;
  return `The peak of power stands where it stood, near ${rpm(move.referenceRpm)}.`;
});
function label({ kind, metric, fromRpm, toRpm }: BandPart): string {
  if (kind === 'metric') return METRIC_WORDS[metric] + ' in the band';
  if (kind === 'claimed') return `at the claimed ${show.value.words.rpm(fromRpm)}`;
  return kind === 'outside' ? `${range(fromRpm, toRpm)}, not asked` : range(fromRpm, toRpm);
}
const rows = computed(() =>
  props.difference.parts.map((part) => ({
    key: `${part.kind} ${part.metric} ${part.fromRpm} ${part.toRpm}`,
    label: label(part),
    figure: tied(signed(part.estimate.pct), '%'),
    range: `${signed(part.estimate.low)} to ${signed(part.estimate.high)}`,
    reads: READS_AS[part.answer],
  })),
);
</script>

<template>
  <div class="parts">
    <p>
      {{ [real, peak, ...(withheld ? [] : difference.hints.map((hint) => HINT_WORDS[hint]))].join(' ') }}
      <span v-if="!withheld && difference.hints.length" class="muted">A shape is a hint, never a proof.</span>
    </p>
    <details>
      <summary class="small">
        In parts of the band, by other metrics{{ rows.some(({ label: text }) => text.includes('claimed')) ? ', where it was claimed' : '' }}
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
