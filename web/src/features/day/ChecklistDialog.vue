<script setup lang="ts">
import type { ChecklistName } from '@gezeit/contract';
import { checkedOf, checkKey, checklist, CHECKLIST_WORDS, openItems } from '@gezeit/core';
import Button from 'primevue/button';
import Checkbox from 'primevue/checkbox';
import InputText from 'primevue/inputtext';
import RadioButton from 'primevue/radiobutton';
import { computed, ref, watch } from 'vue';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** A checklist of the day: before it, before a swap (which it begins), after it (which it closes), or at the day's end (which it closes too). */
const props = defineProps<{ name: 'checks' | 'before-swap' | 'swap' | 'end'; list: ChecklistName }>();
const emit = defineEmits<{ 'begin-swap': [] }>();
const day = useDay();
const reset = ref<'yes' | 'no' | null>(null);
const reason = ref('');

const items = computed(() => checklist(day.bundle, props.list).filter(({ id }) => !(props.name === 'swap' && id === 'reset')));
const of = computed(() => checkedOf(day.state, props.list));
const ticked = computed(() => day.state.checks.get(checkKey(props.list, of.value)));
const open = computed(() => openItems(day.bundle, day.state, props.list).filter(({ id }) => id !== 'reset'));
const openSafety = computed(() => open.value.filter(({ safety }) => safety));
const openOthers = computed(() => open.value.filter(({ safety }) => !safety));
const next = computed(() => day.instruction.step?.setup ?? '');
const header = computed(() => {
  if (props.name === 'before-swap') return `Before the swap to ${next.value}`;
  return props.name === 'swap' ? `After the swap to ${day.state.swapping?.to ?? ''}` : CHECKLIST_WORDS[props.list];
});
/** A bound runs without something that usually stands between the air and the engine. */
const isBound = computed(() => day.setupById.get(next.value)?.setup.bound === true);

watch(
  () => day.dialog === props.name,
  () => {
    reset.value = null;
    reason.value = '';
  },
);
const tick = (list: readonly { id: string }[], done: boolean) =>
  day.act({ kind: 'checked', list: props.list, of: of.value, items: list.map(({ id }) => id), done });

async function finishSwap(): Promise<void> {
  if (reset.value === null) return;
  if (await day.act({ kind: 'swap-ended', ecuReset: reset.value === 'yes' })) day.dialog = null;
}
async function endDay(): Promise<void> {
  if (await day.act({ kind: 'ended', reason: reason.value.trim() || null, open: open.value.map(({ id }) => id) })) day.dialog = null;
}
</script>

<template>
  <CellDialog :name="name" :header="header">
    <p v-if="list === 'beforeDay'" class="muted">
      Safety items must be ticked before the first pull. Local codes and the cell’s own rules come first; work on the car is for licensed
      hands.
    </p>
    <p v-if="name === 'before-swap'" class="muted">
      Tick what is so on the car. Local codes and the cell’s own rules come first; work on the car is for licensed hands.
      <b v-if="isBound">{{ next }} is a bound: with element, lid or tract off, anything loose is drawn in. Nobody reaches near it.</b>
    </p>
    <ul class="items" :aria-label="header">
      <li v-for="item in items" :key="item.id">
        <label>
          <Checkbox
            :model-value="ticked?.get(item.id)?.done ?? false"
            binary
            :input-id="`${name}-${item.id}`"
            @update:model-value="tick([item], $event)"
          />
          <span>{{ item.text }}</span><span v-if="item.safety" class="safety">safety</span>
        </label>
      </li>
    </ul>
    <fieldset v-if="name === 'swap'" class="reset">
      <legend>
        Has the engine’s control unit lost what it had learned (battery off, reset)? Codes cleared in other units do not count.
      </legend>
      <label><RadioButton v-model="reset" value="no" input-id="reset-no" name="reset" /> No</label>
      <label><RadioButton v-model="reset" value="yes" input-id="reset-yes" name="reset" /> Yes: it learns again</label>
    </fieldset>
    <div v-if="name === 'end' && open.length > 0" class="reason">
      <label for="end-reason">{{ open.length }} open: tick them, or say why the day closes so</label>
      <InputText id="end-reason" v-model="reason" autocomplete="off" maxlength="300" />
    </div>
    <template #actions>
      <Button text label="Close" @click="day.dialog = null" />
      <Button v-if="name === 'before-swap'" label="The swap begins" :disabled="openSafety.length > 0" @click="emit('begin-swap')" />
      <Button v-if="openOthers.length > 0" outlined label="Tick what is no safety item" @click="tick(openOthers, true)" />
      <Button v-if="name === 'swap'" label="Swap done" :disabled="reset === null || openSafety.length > 0" @click="finishSwap" />
      <Button v-else-if="name === 'end'" label="End the day" :disabled="open.length > 0 && reason.trim() === ''" @click="endDay" />
      <Button v-else-if="name === 'checks'" label="Done" :disabled="openSafety.length > 0" @click="day.dialog = null" />
    </template>
  </CellDialog>
</template>

<style scoped>
.items {
  list-style: none;
  padding: 0;
}
.items label,
.reset label {
  display: flex;
  align-items: center;
  gap: 0.7rem;
  min-height: 48px;
  font-size: 16px;
  border-bottom: 1px solid var(--line);
  cursor: pointer;
}
.safety {
  margin-left: auto;
  font-size: 13px;
  color: var(--brick);
  border: 1px solid currentColor;
  border-radius: 2px;
  padding: 0 0.3rem;
}
.reset {
  border: 0;
  margin: 0.8rem 0 0;
  padding: 0;
}
.reset legend {
  font-weight: 600;
}
.reason {
  display: grid;
  gap: 0.3rem;
  margin-top: 0.8rem;
}
</style>
