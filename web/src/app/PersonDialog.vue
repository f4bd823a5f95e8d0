<script setup lang="ts">
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { ref, watch } from 'vue';
import { usePerson } from '../shared/person-store.js';

/** Asks once who is working; no password. */
const person = usePerson();
const initials = ref('');
const name = ref('');

watch(
  () => person.asking,
  (asking) => {
    if (!asking) return;
    initials.value = person.initials;
    name.value = person.name;
  },
  { immediate: true },
);

function save(): void {
  if (initials.value.trim() !== '') person.set(initials.value, name.value);
}
</script>

<template>
  <Dialog
    :visible="person.asking"
    modal
    header="Who is working?"
    :style="{ width: '26rem' }"
    @update:visible="!$event && person.settle(false)"
  >
    <form class="fields" @submit.prevent="save">
      <p class="muted">Stamped on every change, so that the record says who made it. No password: Gezeit answers on this machine only.</p>
      <label for="person-initials">Initials</label>
      <InputText id="person-initials" v-model="initials" maxlength="6" autofocus required autocomplete="off" />
      <label for="person-name">Name</label>
      <InputText id="person-name" v-model="name" maxlength="80" autocomplete="off" />
      <div class="actions">
        <Button type="button" text label="Not now" @click="person.settle(false)" />
        <Button type="submit" label="Save" :disabled="initials.trim() === ''" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 0.4rem;
}
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 0.5rem;
  margin-top: 0.6rem;
}
</style>
