<script setup lang="ts">
import { gateListText } from '@gezeit/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** A pull although a gate is not met: it needs a reason, which stays with the pull. */
const emit = defineEmits<{ pull: [reason: string] }>();
const day = useDay();
const show = useShow();
const reason = ref('');
const open = computed(() => gateListText(day.instruction.holding, show.value.words));
watch(
  () => day.dialog,
  () => (reason.value = ''),
);
const go = () => reason.value.trim() && emit('pull', reason.value.trim());
</script>

<template>
  <CellDialog name="anyway" header="Pull although it is not ready">
    <p>
      Not met: {{ open || 'the order asks for something else' }}. The pull is recorded as driven against its gates, and its start state is
      judged like any other.
    </p>
    <form class="fields" @submit.prevent="go">
      <label for="anyway-reason">Reason</label>
      <InputText id="anyway-reason" v-model="reason" autofocus maxlength="300" autocomplete="off" />
    </form>
    <template #actions>
      <Button text label="Close" @click="day.dialog = null" />
      <Button outlined label="The pull starts" :disabled="reason.trim() === ''" @click="go" />
    </template>
  </CellDialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 0.3rem;
  margin-top: 0.8rem;
}
</style>
