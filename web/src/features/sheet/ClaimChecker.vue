<script setup lang="ts">
import type { ClaimChecked } from '@gezeit/contract';
import { withWords } from '@gezeit/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, shallowRef, watch } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import { claimInstead, claimMeasuredText, CLAIM_STATES } from '../../parts/claim-measured.js';
import { api, ApiFailure } from '../../shared/api/client.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { useShow } from '../../shared/units/use-show.js';

/** A sentence with a figure, held against what was measured, before it leaves the house. */
const props = defineProps<{ candidate: string }>();
const programme = useProgramme();
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
    failure.value = error instanceof ApiFailure ? error : new ApiFailure('The sentence could not be checked.', 'Try again.');
  } finally {
    asking.value = false;
  }
}
// What was said of another setup, or of other pulls, is an answer no more.
watch([() => props.candidate, () => programme.stored?.stamp], () => (answer.value = null));

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
        placeholder="+3 kW at the wheel between 4,800 and 6,400 rpm"
      />
      <Button type="submit" size="small" outlined label="Check" :loading="asking" :disabled="text.trim() === ''" />
    </form>
    <FailureNote v-if="failure" :failure="failure" />
    <div v-if="answer" role="status">
      <p class="muted small">“{{ asked }}” {{ answer.understood }}</p>
      <p v-if="finding">
        <b :class="isSayable ? 'yes' : 'no'">{{ isSayable ? 'It may be said' : `It may not be said: ${CLAIM_STATES[finding.state]}` }}.</b>
        {{ finding.why }}
        <template v-if="finding.value !== null"> Measured {{ claimMeasuredText(finding, show) }}.</template>
        <template v-if="instead">
          What it supports: <b>{{ instead }}</b>, under the conditions on the sheet.</template
        >
        <template v-else-if="!isSayable && finding.value !== null"> No figure of this kind is supported.</template>
      </p>
    </div>
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
@media print {
  .checker {
    display: none;
  }
}
</style>
