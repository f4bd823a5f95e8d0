<script setup lang="ts">
import type { Correction, Metric } from '@gezeit/contract';
import { proposedBandRpm, proposedCorrection } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { CORRECTION_WORDS, METRIC_WORDS } from '../../shared/question-words.js';
import ExpectedField from './ExpectedField.vue';
import SmallestField from './SmallestField.vue';
import { useAsked } from './use-asked.js';

/** The question itself: what is asked, over which band, and what would be too little to matter. */
const { asked, vehicle, open, set, confirm } = useAsked();
const proposal = computed(() => proposedCorrection(vehicle.value));
const band = computed(() => proposedBandRpm(vehicle.value));

const low = ref<number | null>(null);
const high = ref<number | null>(null);
watch(
  () => asked.value.bandRpm.join(),
  () => {
    [low.value, high.value] = asked.value.bandRpm;
  },
  { immediate: true },
);
const bandProblem = computed(() =>
  low.value !== null && high.value !== null && low.value >= high.value ? 'The first engine speed must be below the second.' : null,
);
/** Takes what the field itself has: an answer that comes meanwhile may have put the other end's old value back. */
function setBand(end: 0 | 1, value: number | null): void {
  if (value === null) return;
  set(
    'band changed',
    (now) => {
      const next = now.bandRpm.with(end, value) as [number, number];
      return next[0] < next[1] ? { bandRpm: next } : {};
    },
    'bandRpm',
  );
}
</script>

<template>
  <section class="asked" aria-label="What is asked">
    <TextEdit
      class="title"
      :model-value="asked.title"
      label="Title of the programme"
      @commit="$event && set('title changed', { title: $event })"
    />
    <TextEdit
      class="question"
      :rows="2"
      :model-value="asked.question"
      label="The question"
      placeholder="Does the part do what we say, on this car? Write the question in one sentence."
      @commit="set('question written', { question: $event })"
    />
    <div class="fields">
      <FieldRow
        label="Asked of the"
        why="The mean over the band uses every engine speed alike and is the quietest figure; a peak moves about with noise."
      >
        <template #default="{ describedBy }">
          <ChoiceInput
            :model-value="asked.metric"
            :choices="METRIC_WORDS"
            label="Metric"
            :described-by="describedBy"
            @update:model-value="set('metric changed', { metric: $event as Metric })"
          />
        </template>
      </FieldRow>
      <FieldRow
        label="Band"
        :open="open('bandRpm')"
        why="Engine speeds over which the question is asked: where the part is meant to work, and every pull covers. Proposed: the upper part of the engine’s range."
      >
        <template #default="{ describedBy }">
          <NumberInput
            v-model="low"
            unit="rpm"
            label="Band from"
            :described-by="describedBy"
            width="5rem"
            :problem="bandProblem"
            @commit="setBand(0, $event)"
          />
          <span>to</span>
          <NumberInput v-model="high" unit="rpm" label="Band to" :described-by="describedBy" width="5rem" @commit="setBand(1, $event)" />
          <Button v-if="open('bandRpm')" text size="small" label="Confirm" aria-label="Confirm the band" @click="confirm('bandRpm')" />
          <Button
            v-if="band[0] !== asked.bandRpm[0] || band[1] !== asked.bandRpm[1]"
            text
            size="small"
            :label="`Propose ${band[0]} to ${band[1]}`"
            @click="set('proposed band', { bandRpm: band }, 'bandRpm')"
          />
        </template>
      </FieldRow>
      <SmallestField />
      <FieldRow
        label="Weather correction"
        :open="open('correction')"
        :why="`Rules every figure. Proposed for this car: ${CORRECTION_WORDS[proposal.value]}. ${proposal.why}`"
      >
        <template #default="{ describedBy }">
          <ChoiceInput
            :model-value="asked.correction"
            :choices="CORRECTION_WORDS"
            label="Weather correction"
            :described-by="describedBy"
            @update:model-value="set('correction changed', { correction: $event as Correction }, 'correction')"
          />
          <Button
            v-if="open('correction')"
            text
            size="small"
            label="Confirm"
            aria-label="Confirm the correction"
            @click="confirm('correction')"
          />
          <Button
            v-if="proposal.value !== asked.correction"
            text
            size="small"
            :label="`Propose ${CORRECTION_WORDS[proposal.value]}`"
            :title="proposal.why"
            @click="set('proposed correction', { correction: proposal.value }, 'correction')"
          />
          <span v-if="proposal.value !== asked.correction" class="reason">{{ proposal.why }}</span>
        </template>
      </FieldRow>
      <ExpectedField />
    </div>
  </section>
</template>

<style scoped>
.asked {
  min-width: 0;
}
.title {
  font-weight: 650;
  color: var(--muted);
  border-color: transparent;
  background: transparent;
  box-shadow: none;
  padding-left: 0;
}
.question {
  font-size: 1.45rem;
  line-height: 1.25;
  font-weight: 650;
  border-color: transparent;
  background: transparent;
  box-shadow: none;
  padding-left: 0;
  resize: none;
  margin-bottom: 0.4rem;
  field-sizing: content;
}
.title:hover,
.question:hover,
.title:focus,
.question:focus {
  background: var(--surface);
  border-color: var(--line);
}
.reason {
  font-size: 13px;
  color: var(--muted);
  max-width: 30rem;
}
</style>
