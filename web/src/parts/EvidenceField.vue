<script setup lang="ts">
import type { Question, QuestionEvidence } from '@gezeit/contract';
import { evidenceFor } from '@gezeit/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import NumberInput from '../shared/form/NumberInput.vue';
import { usePerson } from '../shared/person-store.js';
import { useProgramme } from '../model/programme-store.js';

/** What was found where no log can answer: fault codes read, a sound level, a coolant reading; entered where the question stands. */
const props = defineProps<{ question: Question; candidate: string }>();
const programme = useProgramme();
const person = usePerson();
const FIELDS = {
  'no-fault-codes': { label: 'New fault codes', unit: '–', kept: 'codes', difference: false, whole: true },
  'not-louder': { label: 'Louder by', unit: '–', kept: 'dB', difference: false, whole: false },
  'coolant-no-hotter': { label: 'Coolant hotter by', unit: 'K', kept: 'K', difference: true, whole: false },
} as const;
const field = computed(() => FIELDS[props.question.kind as keyof typeof FIELDS] ?? null);
const known = computed(() => evidenceFor(props.question, props.candidate));
const value = ref<number | null>(null);
const note = ref('');
const isOpen = ref(false);
watch(
  known,
  (now) => {
    value.value = now?.value ?? null;
    note.value = now?.note ?? '';
  },
  { immediate: true },
);

/** Evidence by setup: what was entered for all before is kept for the others. */
function withEvidence(question: Question, entry: QuestionEvidence | null): Question {
  const { evidence } = question;
  const bySetup = evidence && typeof evidence.value === 'number' ? {} : { ...(evidence as Record<string, QuestionEvidence> | null) };
  const { [props.candidate]: _, ...others } = bySetup;
  const next = entry ? { ...others, [props.candidate]: entry } : others;
  return { ...question, evidence: Object.keys(next).length > 0 ? next : null };
}
async function store(entry: QuestionEvidence | null, what: string): Promise<void> {
  const stored = await programme.edit('programme', what, (now) => ({
    ...now,
    questions: (now.questions ?? []).map((question) => (question.id === props.question.id ? withEvidence(question, entry) : question)),
  }));
  if (stored) isOpen.value = false;
}
async function keep(): Promise<void> {
  if (value.value === null || !field.value || !(await person.ensure())) return;
  const entry = { value: value.value, unit: field.value.kept, note: note.value.trim(), by: person.stamp, at: new Date().toISOString() };
  await store(entry, `${field.value.label.toLowerCase()} for ${props.candidate}: ${value.value}`);
}
</script>

<template>
  <div v-if="field">
    <Button
      v-if="!isOpen"
      text
      size="small"
      :label="known ? 'Change what was found' : 'Enter what was found'"
      :aria-label="`${known ? 'Change' : 'Enter'} what was found: ${field.label.toLowerCase()}`"
      @click="isOpen = true"
    />
    <form v-else class="evidence" @submit.prevent="keep">
      <label
        ><span>{{ field.label }}{{ field.kept === 'dB' ? ', dB' : '' }}</span>
        <NumberInput v-model="value" :unit="field.unit" :difference="field.difference" :label="field.label" width="5rem"
      /></label>
      <label
        ><span>How it was found</span> <InputText v-model="note" maxlength="300" autocomplete="off" aria-label="How it was found"
      /></label>
      <span class="actions">
        <Button
          type="submit"
          size="small"
          label="Keep it"
          :disabled="value === null || (field.whole && (value < 0 || !Number.isInteger(value)))"
        />
        <Button v-if="known" text size="small" label="Remove it" @click="store(null, `${field.label.toLowerCase()} removed`)" />
        <Button text size="small" label="Close" @click="isOpen = false" />
      </span>
    </form>
  </div>
</template>

<style scoped>
.evidence {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 0.4rem 0.8rem;
}
label {
  display: grid;
  gap: 0.1rem;
}
.actions {
  display: flex;
  gap: 0.3rem;
}
</style>
