<script setup lang="ts">
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { ref, watch } from 'vue';
import type { ApiFailure } from '../../shared/api/client.js';
import FailureNote from '../../shared/ui/FailureNote.vue';

/** Why the answers are fixed. */
defineProps<{ failure: ApiFailure | null; busy: boolean }>();
const emit = defineEmits<{ fix: [why: string] }>();
const visible = defineModel<boolean>('visible', { required: true });
const why = ref('');
watch(visible, (isOpen) => isOpen && (why.value = ''));
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Fix these answers" :style="{ width: '32rem' }">
    <form class="fix" @submit.prevent="why.trim() && emit('fix', why.trim())">
      <p class="muted">
        Numbers, words, curves, assumptions and the digests of every input are kept as they are now, with your name and the time. They are
        never computed again; where an input changes, the sheet says so.
      </p>
      <label for="fix-why">Why now</label>
      <InputText id="fix-why" v-model="why" autofocus maxlength="300" autocomplete="off" placeholder="for the release of revision 3" />
      <FailureNote v-if="failure" :failure="failure" />
      <div class="actions">
        <Button type="button" text label="Leave it" @click="visible = false" />
        <Button type="submit" label="Fix" :disabled="why.trim() === ''" :loading="busy" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.fix {
  display: grid;
  gap: 0.5rem;
}
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 0.5rem;
}
</style>
