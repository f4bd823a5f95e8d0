<script setup lang="ts">
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { computed, nextTick, ref } from 'vue';
import { useDesk } from './desk-store.js';

/** Formulas of channels: their names and units are checked as they are typed. */
const visible = defineModel<boolean>('visible', { required: true });
const desk = useDesk();
const name = ref('');
const text = ref('');
const field = ref<{ $el: HTMLInputElement } | null>(null);

const read = computed(() => (text.value.trim() === '' ? null : desk.read({ name: '', text: text.value })));
const said = computed(() => {
  if (!read.value)
    return 'Names, numbers, units as factors (2 * kPa), + - * / ^, and abs, sqrt, ln, exp, min, max, rate (per second), smooth(a, 0.2).';
  return read.value.problem ?? `It gives ${read.value.formula!.unitText === '–' ? 'a plain number' : read.value.formula!.unitText}.`;
});
const isGood = computed(() => read.value?.formula != null);
const isTaken = computed(() => desk.formulas.some((formula) => formula.name === name.value.trim()));

function keep(): void {
  if (!isGood.value) return;
  const formula = { name: name.value.trim() || text.value.trim().slice(0, 80), text: text.value.trim() };
  desk.formulas = [...desk.formulas.filter((other) => other.name !== formula.name), formula];
  [name.value, text.value] = ['', ''];
}
function change(formula: { name: string; text: string }): void {
  [name.value, text.value] = [formula.name, formula.text];
}
async function insert(channel: string): Promise<void> {
  const input = field.value!.$el;
  const [from, to] = [input.selectionStart ?? text.value.length, input.selectionEnd ?? text.value.length];
  text.value = text.value.slice(0, from) + channel + text.value.slice(to);
  await nextTick();
  input.focus();
  input.setSelectionRange(from + channel.length, from + channel.length);
}
const remove = (gone: string) => (desk.formulas = desk.formulas.filter((formula) => formula.name !== gone));
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Formulas of channels" :style="{ width: '44rem' }">
    <ul v-if="desk.formulas.length > 0" class="known">
      <li v-for="formula in desk.drawnFormulas" :key="formula.name">
        <b>{{ formula.name }}</b> <code>{{ formula.text }}</code>
        <span :class="formula.problem ? 'problem' : 'muted'">{{ formula.problem ?? formula.formula!.unitText }}</span>
        <Button text size="small" icon="pi pi-pencil" :aria-label="`Change ${formula.name}`" @click="change(formula)" />
        <Button text size="small" icon="pi pi-trash" :aria-label="`Remove ${formula.name}`" @click="remove(formula.name)" />
      </li>
    </ul>
    <form class="fields" @submit.prevent="keep">
      <label for="formula-text">Formula</label>
      <InputText
        id="formula-text"
        ref="field"
        v-model="text"
        autofocus
        maxlength="300"
        autocomplete="off"
        spellcheck="false"
        placeholder="smooth(boostPressure, 0.2) - pressureDrop"
        :invalid="read?.problem != null"
        aria-describedby="formula-said"
      />
      <p id="formula-said" role="status" :class="{ problem: read?.problem }">{{ said }}</p>
      <label for="formula-name">Name</label>
      <InputText id="formula-name" v-model="name" maxlength="80" autocomplete="off" placeholder="as the formula, where it has none" />
      <p class="names" aria-label="Channels that can be named">
        <Button
          v-for="channel in desk.formulaChannels"
          :key="channel.key"
          text
          size="small"
          :label="channel.name"
          :title="desk.channelByKey.get(channel.key)?.label"
          @click="insert(channel.name)"
        />
      </p>
      <div class="actions">
        <Button type="button" text label="Close" @click="visible = false" />
        <Button type="submit" :label="isTaken ? 'Replace' : 'Draw it'" :disabled="!isGood" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.known {
  list-style: none;
  margin: 0 0 0.8rem;
  padding: 0;
}
.known li {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  align-items: center;
}
.known code {
  flex: 1;
  min-width: 8rem;
}
.fields {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 0.4rem 0.8rem;
  align-items: center;
}
.fields p,
.fields .actions {
  grid-column: 1 / -1;
}
.problem {
  color: var(--brick);
}
.names {
  display: flex;
  flex-wrap: wrap;
  max-height: 9rem;
  overflow: auto;
}
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 0.5rem;
}
</style>
