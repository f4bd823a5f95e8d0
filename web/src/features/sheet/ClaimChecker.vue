<script setup lang="ts">
import type { ClaimChecked, SheetSource } from '@gezeit/contract';
import { claimFromText, sheetOf, withWords } from '@gezeit/core';
import { nanoid } from 'nanoid';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, shallowRef, watch } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import { claimInstead, claimMeasuredText, CLAIM_STATES } from '../../parts/claim-measured.js';
import { api, ApiFailure } from '../../shared/api/client.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { usePerson } from '../../shared/person-store.js';
import { useShow } from '../../shared/units/use-show.js';

/** A sentence with a figure, held against what was measured, before it leaves the house. */
const props = defineProps<{ candidate: string; source: SheetSource }>();
const programme = useProgramme();
const person = usePerson();
const show = useShow();
const text = ref('');
const asked = ref('');
const answer = shallowRef<ClaimChecked | null>(null);
const failure = shallowRef<ApiFailure | null>(null);
const asking = ref(false);

async function check(): Promise<void> {
  const sentence = text.value.trim();
  if (sentence === '') return;
  asking.value = true;
  failure.value = null;
  try {
    answer.value = await api.claim(programme.view!.id, sentence, props.candidate);
    asked.value = sentence;
  } catch (error) {
    answer.value = null;
    failure.value = ApiFailure.of(error, 'The sentence could not be checked.', 'Try again.');
  } finally {
    asking.value = false;
  }
}
// What was said of another setup, or of other pulls, is an answer no more.
watch([() => props.candidate, () => programme.stored?.stamp], () => (answer.value = null));

const sheet = computed(() => {
  const findings = withWords(props.source.findings, show.value.words);
  const comparison = findings.comparisons.find((entry) => entry.candidate === props.candidate)!;
  return sheetOf({ ...props.source, findings }, comparison, show.value.words);
});
function beginFrom(event: Event): void {
  const list = event.target as HTMLSelectElement;
  text.value = list.value;
  list.value = '';
}
const putLabel = computed(() => {
  if (isSayable.value || sheet.value.mayBeSaid.some(({ short }) => short === asked.value)) return 'Put it on the sheet';
  return `Put it on the sheet, marked as ${finding.value && finding.value.state !== 'not-checked' ? 'beyond the data' : 'not checked'}`;
});
async function putOn(): Promise<void> {
  const { fields } = claimFromText(asked.value);
  const claim = { ...fields, id: nanoid(), text: asked.value, by: person.stamp, setup: props.candidate, ownWords: true };
  if (await programme.edit('programme', 'a sentence put on the sheet', (now) => ({ ...now, claims: [...(now.claims ?? []), claim] }))) {
    text.value = '';
    answer.value = null;
  }
}
const takeOff = (id: string) =>
  programme.edit('programme', 'a sentence taken off the sheet', (now) => ({
    ...now,
    claims: now.claims?.filter((claim) => claim.id !== id),
  }));

const finding = computed(() => (answer.value?.finding ? withWords(answer.value.finding, show.value.words) : null));
const isSayable = computed(() => finding.value?.state === 'holds');
const instead = computed(() => (finding.value && !isSayable.value ? claimInstead(finding.value, show.value) : null));
</script>

<template>
  <section class="checker" aria-label="A sentence held against the measurement">
    <form @submit.prevent="check">
      <label for="claim-text">May this be said?</label>
      <InputText
        id="claim-text"
        v-model="text"
        size="small"
        maxlength="500"
        autocomplete="off"
        :placeholder="`+3 ${show.units.power} at the wheel between 4,800 and 6,400 rpm`"
      />
      <select v-if="sheet.mayBeSaid.length > 0" aria-label="Begin from what may be said" @change="beginFrom">
        <option value="">begin from…</option>
        <option v-for="statement in sheet.mayBeSaid" :key="statement.full" :value="statement.short">{{ statement.short }}</option>
      </select>
      <Button type="submit" size="small" outlined label="Check" :loading="asking" :disabled="text.trim() === ''" />
    </form>
    <FailureNote v-if="failure" :failure="failure" />
    <div v-if="answer" role="status">
      <p class="muted small">“{{ asked }}” {{ answer.understood }}</p>
      <p v-if="finding">
        <b :class="isSayable ? 'yes' : 'no'">{{ isSayable ? 'It may be said' : `It may not be said: ${CLAIM_STATES[finding.state]}` }}.</b>
        {{ finding.why }}
        <template v-if="finding.value !== null"> Measured {{ claimMeasuredText(finding, show) }}.</template>
        <template v-if="instead"> What it supports: <b>{{ instead }}</b>, under the conditions on the sheet.</template>
        <template v-else-if="!isSayable && finding.value !== null"> No figure of this kind is supported.</template>
      </p>
      <Button size="small" outlined :label="putLabel" :loading="programme.judging" @click="putOn()" />
    </div>
    <ul v-if="sheet.ownWords.length > 0" class="own" aria-label="Our own sentences on the sheet">
      <li v-for="entry in sheet.ownWords" :key="entry.claim">
        “{{ entry.text }}”
        <b v-if="entry.state !== 'supported'" class="no">{{ entry.state === 'beyond' ? 'beyond the data' : 'not checked' }}</b>
        <Button size="small" text label="Take off" :aria-label="`Take “${entry.text}” off the sheet`" @click="takeOff(entry.claim)" />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.checker {
  max-width: 62rem;
  margin: 0 auto 0.8rem;
}
form {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
}
form input {
  flex: 1;
  min-width: 14rem;
}
.yes {
  color: var(--green);
}
.no {
  color: var(--brick);
}
.own {
  margin: 0.3rem 0 0;
  padding-left: 1.2rem;
}
select {
  font: inherit;
  max-width: 10rem;
  color: var(--ink);
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0.15rem 0.3rem;
}
@media print {
  .checker {
    display: none;
  }
}
</style>
