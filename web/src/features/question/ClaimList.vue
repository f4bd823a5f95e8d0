<script setup lang="ts">
import type { Claim } from '@gezeit/contract';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { claimFromText } from '@gezeit/core';
import { computed, ref } from 'vue';
import FieldSet from '../../shared/form/FieldSet.vue';
import type { FormField } from '../../shared/form/form-fields.js';
import { useProgramme } from '../../model/programme-store.js';
import { CORRECTION_WORDS } from '../../shared/question-words.js';
import { useShow } from '../../shared/units/use-show.js';

/** Statements to be checked, with where and how they were measured as far as known. They come back on Verdict. */
const programme = useProgramme();
const claims = computed<Claim[]>(() => (programme.view!.bundle.programme.claims ?? []).filter(({ ownWords }) => !ownWords));
const show = useShow();
const typed = ref('');
const by = ref('');
const openClaim = ref<string | null>(null);
const candidates = computed(() =>
  Object.fromEntries(programme.view!.bundle.setups.filter(({ reference }) => !reference).map(({ id, name }) => [id, `${id} ${name}`])),
);
const POWER_AT = { wheel: 'at the wheel', hub: 'at the hub', crank: 'at the crank' };
/** Where and how a claim was measured, as far as known. */
const detailFields = computed<FormField[]>(() => [
  { kind: 'text', name: 'by', label: 'By', aria: 'By whom', why: 'Who says so: a page, a dealer, your own draft.' },
  {
    kind: 'choice',
    name: 'powerAt',
    label: 'Power was measured',
    aria: 'Where the claimed power was measured',
    why: 'No loss is ever added back: a claim at the crank cannot be held against the wheel.',
    choices: POWER_AT,
    placeholder: 'not known',
  },
  {
    kind: 'choice',
    name: 'correction',
    label: 'Correction',
    aria: 'Correction of the claim',
    why: 'As printed beside the claim; unknown is an answer too.',
    choices: CORRECTION_WORDS,
    placeholder: 'not known',
  },
  {
    kind: 'text',
    name: 'conditions',
    label: 'Conditions',
    aria: 'Conditions of the claim',
    why: 'Bonnet, fan, fuel, gear, number of pulls: as far as known.',
  },
  {
    kind: 'choice',
    name: 'setup',
    label: 'Said of',
    aria: 'Setup of the claim',
    why: 'The setup that the claim is about.',
    choices: candidates.value,
    placeholder: 'the first candidate',
  },
]);
const understood = computed(() => claimFromText(typed.value));

function edit(what: string, change: (claims: Claim[]) => Claim[]): void {
  void programme.edit('programme', what, (now) => ({ ...now, claims: change(now.claims ?? []) }));
}
function add(): void {
  const text = typed.value.trim();
  if (text === '') return;
  const taken = new Set(claims.value.map(({ id }) => id));
  let number = 1;
  while (taken.has(`c${number}`)) number += 1;
  const claim: Claim = { id: `c${number}`, text, ...(by.value.trim() ? { by: by.value.trim() } : {}), ...understood.value.fields };
  edit(`claim: ${text}`, (list) => [...list, claim]);
  typed.value = '';
}
const patch = (id: string, change: Partial<Claim>) =>
  edit('claim changed', (list) => list.map((claim) => (claim.id === id ? { ...claim, ...change } : claim)));
</script>

<template>
  <div>
    <h2>Claims to be checked</h2>
    <ul v-if="claims.length" class="claims">
      <li v-for="claim in claims" :key="claim.id">
        <div class="claim">
          <button
            type="button"
            class="text"
            :aria-expanded="openClaim === claim.id"
            @click="openClaim = openClaim === claim.id ? null : claim.id"
          >
            <b>{{ claim.text }}</b>
            <span class="muted">{{
              [claim.by, claim.powerAt && `at the ${claim.powerAt}`, claim.correction && CORRECTION_WORDS[claim.correction]]
                .filter(Boolean)
                .join(', ')
            }}</span>
          </button>
          <span v-if="claim.afterwards" class="tag">afterwards</span>
          <Button
            text
            size="small"
            icon="pi pi-times"
            :aria-label="`Remove the claim ${claim.text}`"
            @click="edit(`claim removed: ${claim.text}`, (list) => list.filter(({ id }) => id !== claim.id))"
          />
        </div>
        <div v-if="openClaim === claim.id" class="details">
          <FieldSet :fields="detailFields" :values="claim" @set="(name, value) => patch(claim.id, { [name]: value })" />
        </div>
      </li>
    </ul>
    <form class="add" @submit.prevent="add">
      <InputText
        v-model="typed"
        class="statement"
        aria-label="A claim"
        :placeholder="`+5 ${show.units.power} at 6000 rpm · +12 % flow · −8 ${show.differenceUnit} · no loss`"
        autocomplete="off"
      />
      <InputText v-model="by" class="by" aria-label="From whom" placeholder="from whom" autocomplete="off" />
      <Button type="submit" size="small" outlined label="Add the claim" :disabled="typed.trim() === ''" />
    </form>
    <p v-if="typed.trim()" class="small" :class="understood.understood ? 'understood' : 'muted'" aria-live="polite">
      {{ understood.words }}
    </p>
  </div>
</template>

<style scoped>
.claims {
  list-style: none;
  padding: 0;
  margin: 0.2rem 0 0.4rem;
}
.claim {
  display: flex;
  align-items: baseline;
  gap: 0.4rem;
}
.text {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0.15rem 0;
  text-align: left;
  cursor: pointer;
  display: flex;
  flex-wrap: wrap;
  gap: 0 0.6rem;
  flex: 1;
  min-width: 0;
}
.text > * {
  max-width: 100%;
}
.details {
  padding: 0.2rem 0 0.5rem 0.8rem;
  border-left: 2px solid var(--line);
}
.add {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}
.statement {
  flex: 2 1 12rem;
  min-width: 0;
}
.by {
  flex: 1 1 7rem;
  min-width: 0;
}
.tag {
  padding: 0 0.3rem;
  border: 1px solid currentColor;
  border-radius: 2px;
  font-size: 13px;
}
.understood {
  color: var(--green);
}
</style>
