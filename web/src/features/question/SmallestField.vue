<script setup lang="ts">
import type { Programme } from '@gezeit/contract';
import { claimKW, fromSi, typedNumber } from '@gezeit/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import { useShow } from '../../shared/units/use-show.js';
import { useAsked } from './use-asked.js';

/** The smallest difference that matters: per cent, or a power with the power it is a share of. */
const { asked, open, set, confirm } = useAsked();
const show = useShow();
const smallestText = ref('');
const ofKW = ref<number | null>(null);
const smallestShown = computed(() => {
  const said = asked.value.smallestGainSaid;
  return said ? `${said.value} ${said.unit}` : `${asked.value.smallestGainPct} %`;
});
watch(
  [smallestShown, () => asked.value.smallestGainSaid?.ofKW],
  ([text, of]) => {
    smallestText.value = text;
    ofKW.value = of ? of * 1000 : ofKW.value;
  },
  { immediate: true },
);
const smallest = computed<{ pct: number } | { value: number; unit: string } | { problem: string }>(() => {
  const percent = /^\s*([\d.,]+)\s*%?\s*$/.exec(smallestText.value);
  if (percent) {
    const pct = Number(percent[1]!.replace(',', '.'));
    return pct > 0 && pct < 100 ? { pct } : { problem: 'It must lie above 0 and below 100 %.' };
  }
  const read = typedNumber(smallestText.value, 'kW');
  if (!read.understood) return { problem: `Type it in per cent (1 %) or as a power (2 ${show.value.units.power}).` };
  return read.value > 0
    ? { value: Number(fromSi(read.value, read.unit).toPrecision(6)), unit: read.unit }
    : { problem: 'It must be above zero.' };
});
const needsPower = computed(() => 'unit' in smallest.value);
const smallestPct = computed(() => {
  const read = smallest.value;
  if ('pct' in read) return read.pct;
  if ('problem' in read || !ofKW.value) return null;
  return (100 * claimKW({ id: '', value: read.value, unit: read.unit })) / (ofKW.value / 1000);
});
function setSmallest(): void {
  const read = smallest.value;
  if ('problem' in read || smallestPct.value === null || smallestPct.value >= 100) return;
  const said = 'pct' in read ? null : { value: read.value, unit: read.unit, ofKW: ofKW.value! / 1000 };
  const pct = Number(smallestPct.value.toPrecision(4));
  if (pct === asked.value.smallestGainPct && !said === !asked.value.smallestGainSaid && !open('smallestGainPct')) return;
  set(
    `smallest difference ${smallestText.value.trim()}`,
    (now) => ({ smallestGainPct: pct, smallestGainSaid: said, questions: withLimit(now, pct) }),
    'smallestGainPct',
  );
}
/** Power questions whose limit was the programme's own follow it. */
const withLimit = (now: Programme, pct: number) =>
  now.questions?.map((question) =>
    question.unit === 'pct' &&
    ['power-gain', 'power-no-loss', 'package-gain'].includes(question.kind) &&
    question.smallest === now.smallestGainPct
      ? { ...question, smallest: pct }
      : question,
  ) ?? null;
</script>

<template>
  <FieldRow
    label="Smallest that matters"
    :open="open('smallestGainPct')"
    why="Below it nobody would care: the plan must be able to recognise it, and the verdict is measured against it in both directions. Per cent, or your own unit with the power it is a share of."
  >
    <template #default="{ describedBy }">
      <InputText
        v-model="smallestText"
        aria-label="Smallest difference that matters"
        :aria-describedby="describedBy"
        :invalid="'problem' in smallest"
        class="smallest"
        autocomplete="off"
        @blur="setSmallest"
        @keydown.enter="setSmallest"
      />
      <template v-if="needsPower">
        <span>of</span>
        <NumberInput
          v-model="ofKW"
          unit="kW"
          label="Power that it is a share of"
          placeholder="150"
          width="5.5rem"
          optional
          @commit="setSmallest"
        />
        <span v-if="smallestPct !== null" class="understood">= {{ smallestPct.toFixed(2) }}&nbsp;%</span>
      </template>
      <span v-if="'problem' in smallest" class="problem" role="alert">{{ smallest.problem }}</span>
      <Button
        v-if="open('smallestGainPct')"
        text
        size="small"
        label="Confirm"
        aria-label="Confirm the smallest difference"
        @click="confirm('smallestGainPct')"
      />
    </template>
  </FieldRow>
</template>

<style scoped>
.smallest {
  width: 6.5rem;
  text-align: right;
}
.understood {
  color: var(--green);
  font-size: 13px;
  font-weight: 600;
}
.problem {
  color: var(--brick);
  font-size: 13px;
}
</style>
