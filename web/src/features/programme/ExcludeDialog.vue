<script setup lang="ts">
import type { Pull, PullFinding } from '@gezeit/contract';
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { computed, ref, shallowRef, watch } from 'vue';
import type { ApiFailure } from '../../shared/api/client.js';
import { pullReasonWord } from '@gezeit/core';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { useExclusion } from '../../model/exclusion-store.js';
import { useProgramme } from '../../model/programme-store.js';

/** Leaves a pull out with a reason, or takes it back. */
const exclusion = useExclusion();
const programme = useProgramme();
const reason = ref('');
const failure = shallowRef<ApiFailure | null>(null);

/** The pull as it was when the question was put: the dialog does not change its words while it closes. */
const asked = shallowRef<{ id: string; finding?: PullFinding; pull?: Pull } | null>(null);
const stated = computed(() => asked.value?.pull?.excluded ?? null);
const isMeasured = computed(() => asked.value?.pull?.kind === 'measured');
const used = computed(() => asked.value?.finding?.status === 'used');

watch(
  () => exclusion.pull,
  (id) => {
    if (id === null) return;
    const has = (entry: { id: string }) => entry.id === id;
    asked.value = { id, finding: programme.view?.findings.pulls.find(has), pull: programme.view?.bundle.pulls.find(has) };
    reason.value = typeof stated.value === 'string' ? stated.value : exclusion.proposed;
    failure.value = null;
  },
);

async function decide(excluded: string | false | null): Promise<void> {
  if (!exclusion.pull) return;
  failure.value = await programme.exclude(exclusion.pull, excluded);
  if (!failure.value) exclusion.pull = null;
}
</script>

<template>
  <Dialog
    :visible="exclusion.pull !== null"
    modal
    :header="used ? `Leave pull ${asked?.id} out?` : `Pull ${asked?.id} is left out`"
    :style="{ width: '30rem' }"
    @update:visible="!$event && (exclusion.pull = null)"
  >
    <p v-if="!isMeasured" class="muted">This is no measured pull: it counts for heat and learning only, and is never compared.</p>
    <form v-else class="fields" @submit.prevent="reason.trim() && decide(reason.trim())">
      <template v-if="used">
        <p class="muted">
          It stays in the record and still counts as a pull driven. A bad pull is already weighed down by the judgement: leave out only what
          you know was wrong.
        </p>
        <label for="exclude-reason">Reason</label>
        <InputText id="exclude-reason" v-model="reason" autofocus maxlength="300" autocomplete="off" />
      </template>
      <p v-else>Because: {{ asked?.finding?.reasons.map(pullReasonWord).join(', ') }}.</p>
      <FailureNote v-if="failure" :failure="failure" />
      <div class="actions">
        <Button
          v-if="used && stated === false"
          type="button"
          text
          label="Let the rules decide"
          :loading="programme.busy"
          @click="decide(null)"
        />
        <Button type="button" text label="Close" @click="exclusion.pull = null" />
        <Button v-if="used" type="submit" label="Leave it out" :disabled="reason.trim() === ''" :loading="programme.busy" />
        <Button
          v-else-if="typeof stated === 'string'"
          type="button"
          label="Take it back"
          autofocus
          :loading="programme.busy"
          @click="decide(null)"
        />
        <Button v-else type="button" label="Use it in spite of the rules" :loading="programme.busy" @click="decide(false)" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 0.5rem;
}
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 0.5rem;
  margin-top: 0.4rem;
}
</style>
