<script setup lang="ts">
import type { Question } from '@gezeit/contract';
import { computed } from 'vue';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import NumberInput from '../../shared/form/NumberInput.vue';

/** What a question about response or fade is asked of: a level or two speeds, in seconds or rpm; which pull of a series, in power or kelvin. */
const props = defineProps<{ question: Question; boosted: boolean; bandRpm: readonly [number, number] }>();
const emit = defineEmits<{ patch: [what: string, change: Partial<Question>] }>();

const OF = {
  boost: 'until boost is there',
  torque: 'until torque is there',
  engineSpeed: 'between two engine speeds',
  vehicleSpeed: 'between two road speeds',
};
type Of = keyof typeof OF;
const RESPONSE_UNITS = { s: 'in seconds', rpm: 'as engine speed' };
const FADE_UNITS = { pct: 'of power', K: 'of charge temperature' };
const isFade = computed(() => props.question.kind === 'fades-less');
const of = computed<Of>(() => props.question.response?.of ?? (props.boosted ? 'boost' : 'engineSpeed'));
const hasLevel = computed(() => of.value === 'boost' || of.value === 'torque');
const response = (change: NonNullable<Question['response']>) => ({ response: { ...props.question.response, ...change } });
/** A limit belongs to its unit: another unit begins with its own. */
const LIMITS = { s: 0.1, rpm: 100, pct: 1, K: 3 } as const;
function setUnit(unit: string): void {
  emit('patch', 'unit of a question', { unit: unit as keyof typeof LIMITS, smallest: LIMITS[unit as keyof typeof LIMITS] });
}
function setOf(next: string): void {
  const keepsUnit = next === 'boost' || next === 'torque' || props.question.unit !== 'rpm';
  emit('patch', 'what of response is asked', {
    ...response({ of: next as Of, from: null, to: null }),
    ...(keepsUnit ? {} : { unit: 's' as const, smallest: LIMITS.s }),
  });
}
</script>

<template>
  <span v-if="isFade" class="terms">
    <ChoiceInput
      :model-value="question.unit === 'K' ? 'K' : 'pct'"
      :choices="FADE_UNITS"
      label="What fades"
      @update:model-value="setUnit"
    />
    at pull
    <NumberInput
      :model-value="question.nth ?? null"
      unit="–"
      label="Pull of the series at which fade is read"
      placeholder="last"
      width="3.4rem"
      @commit="emit('patch', 'pull of a fade', { nth: $event === null ? null : Math.max(2, Math.min(50, Math.round($event))) })"
    />
    of a series
  </span>
  <span v-else class="terms">
    <ChoiceInput :model-value="of" :choices="OF" label="What responds" @update:model-value="setOf" />
    <template v-if="hasLevel">
      <ChoiceInput
        :model-value="question.unit === 'rpm' ? 'rpm' : 's'"
        :choices="RESPONSE_UNITS"
        label="Response in"
        @update:model-value="setUnit"
      />
      at
      <NumberInput
        :model-value="question.response?.levelPct ?? 90"
        unit="%"
        label="Level, per cent of the reference’s own"
        width="3.4rem"
        @commit="$event && $event > 0 && $event < 100 && emit('patch', 'level of a response', response({ levelPct: $event }))"
      />
    </template>
    <template v-else>
      <NumberInput
        :model-value="question.response?.from ?? (of === 'engineSpeed' ? bandRpm[0] : null)"
        :unit="of === 'engineSpeed' ? 'rpm' : '–'"
        label="Response from"
        width="4.2rem"
        @commit="emit('patch', 'speeds of a response', response({ from: $event, to: question.response?.to ?? bandRpm[1] }))"
      />
      to
      <NumberInput
        :model-value="question.response?.to ?? (of === 'engineSpeed' ? bandRpm[1] : null)"
        :unit="of === 'engineSpeed' ? 'rpm' : '–'"
        label="Response to"
        width="4.2rem"
        @commit="emit('patch', 'speeds of a response', response({ to: $event, from: question.response?.from ?? bandRpm[0] }))"
      />
      <template v-if="of === 'vehicleSpeed'">km/h</template>
    </template>
  </span>
</template>

<style scoped>
.terms {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.3rem;
  margin-top: 0.2rem;
}
</style>
