<script setup lang="ts">
import type { Correction, Metric, Programme } from '@gezeit/contract';
import { claimKW, fromSi, proposedBandRpm, proposedCorrection, typedNumber } from '@gezeit/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { usePerson } from '../../shared/person-store.js';
import { useProgramme } from '../../model/programme-store.js';
import { CORRECTION_WORDS, METRIC_WORDS } from '../../shared/question-words.js';

/** The question itself: what is asked, over which band, and what would be too little to matter. */
const programme = useProgramme();
const person = usePerson();
const asked = computed(() => programme.view!.bundle.programme);
const vehicle = computed(() => programme.view!.bundle.vehicle);
const open = (field: string) => (asked.value.unanswered ?? []).includes(field);
const proposal = computed(() => proposedCorrection(vehicle.value));
const band = computed(() => proposedBandRpm(vehicle.value));

function set(what: string, change: Partial<Programme> | ((now: Programme) => Partial<Programme>), ...answered: string[]): void {
  void programme.edit('programme', what, (now) => ({
    ...now,
    ...(typeof change === 'function' ? change(now) : change),
    unanswered: (now.unanswered ?? []).filter((field) => !answered.includes(field)),
  }));
}
const confirm = (field: string) => set(`${field} confirmed`, {}, field);

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

// The smallest difference: per cent, or a power with the power it is a share of.
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
  if (!read.understood) return { problem: 'Type it in per cent (1 %) or as a power (2 kW).' };
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

const expected = computed(() => asked.value.expected ?? null);
const hasResults = computed(() => programme.view!.findings.pulls.some(({ status }) => status === 'used'));
function setExpected(side: 'lowPct' | 'highPct', value: number | null): void {
  set('expected range stored', (now) => {
    if (value === null) return { expected: null };
    const next = { ...(now.expected ?? { lowPct: value, highPct: value }), [side]: value };
    if (side === 'lowPct') next.highPct = Math.max(next.highPct, value);
    else next.lowPct = Math.min(next.lowPct, value);
    return { expected: { ...next, by: person.stamp, at: new Date().toISOString() } };
  });
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
      <FieldRow
        label="Expected"
        :why="
          hasResults
            ? 'Stored before the day; results have been seen, so it cannot be stored any more.'
            : 'What you expect, stored before anything is run: a surprise either way is worth a second look.'
        "
      >
        <template #default="{ describedBy }">
          <template v-if="!hasResults">
            <NumberInput
              :model-value="expected?.lowPct ?? null"
              unit="%"
              label="Expected from"
              width="4.5rem"
              optional
              :described-by="describedBy"
              @commit="setExpected('lowPct', $event)"
            />
            <span>to</span>
            <NumberInput
              :model-value="expected?.highPct ?? null"
              unit="%"
              label="Expected to"
              width="4.5rem"
              optional
              :described-by="describedBy"
              @commit="setExpected('highPct', $event)"
            />
          </template>
          <span v-else-if="expected">{{ expected.lowPct }} to {{ expected.highPct }}&nbsp;% ({{ expected.by }}, before the day)</span>
          <span v-else class="muted">nothing was stored before the day</span>
        </template>
      </FieldRow>
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
.reason {
  font-size: 13px;
  color: var(--muted);
  max-width: 30rem;
}
</style>
