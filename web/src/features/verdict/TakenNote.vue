<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import { useTakenChoice } from './taken-choice.js';

/** What the answer was before something was chosen otherwise, and what it is now; until it is dismissed. */
const props = defineProps<{ candidate: string; now: string }>();
const programme = useProgramme();
const taken = useTakenChoice();
/** The change that was made of it; none while a dialog still asks, where that was closed without a word, and once it is taken back. */
const standing = computed(() => (programme.view?.changes ?? []).filter(({ undone }) => !undone));
const change = computed(() => {
  const was = taken.before;
  const first = was && standing.value.filter(({ id }) => id > was.newest).at(-1);
  return first && (was.pull === null || first.subject === was.pull) ? first : null;
});
const before = computed(() => {
  const was = taken.before;
  return was && was.programme === programme.view?.id && was.candidate === props.candidate && change.value ? was : null;
});
async function undo(): Promise<void> {
  if (await programme.undo()) taken.dismiss();
}
</script>

<template>
  <div v-if="before" class="taken" role="status">
    <p><b>Chosen otherwise: {{ before.what }}.</b> Before: {{ before.answer }} Now: {{ programme.judging ? 'being judged…' : now }}</p>
    <Button v-if="change === standing[0]" text size="small" label="Undo" @click="undo" />
    <Button text size="small" label="Dismiss" @click="taken.dismiss()" />
  </div>
</template>

<style scoped>
.taken {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0.2rem 0.6rem;
  border-left: 4px solid var(--green);
  background: var(--surface);
  padding: 0.3rem 0.7rem;
}
p {
  margin: 0;
}
</style>
