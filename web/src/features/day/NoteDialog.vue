<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { ref, watch } from 'vue';
import { api } from '../../shared/api/client.js';
import { ApiFailure } from '../../shared/api/client.js';
import { useProgramme } from '../../model/programme-store.js';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';

/** A note with its time: one key, type, Enter; photos attach. */
const props = defineProps<{ clock: (ms: number) => string; pull: string | null }>();
const day = useDay();
const programme = useProgramme();
const text = ref('');
const files = ref<File[]>([]);
const busy = ref(false);
const aboutPull = ref(false);

watch(
  () => day.dialog === 'note',
  (isOpen) => {
    if (!isOpen) return;
    aboutPull.value = false;
  },
);

async function keep(): Promise<void> {
  if (text.value.trim() === '' || busy.value) return;
  busy.value = true;
  try {
    const attached: string[] = [];
    for (const file of files.value) attached.push(await api.attach(programme.view!.id, file));
    const done = await day.act({ kind: 'note', text: text.value.trim(), files: attached, pull: aboutPull.value ? props.pull : null });
    if (!done) return;
    text.value = '';
    files.value = [];
    day.dialog = null;
  } catch (error) {
    day.failure = ApiFailure.of(error, 'The photo could not be kept.', 'Try again.');
  } finally {
    busy.value = false;
  }
}
const choose = (event: Event) => (files.value = [...((event.target as HTMLInputElement).files ?? [])]);
</script>

<template>
  <CellDialog name="note" header="Note">
    <form class="note" @submit.prevent="keep">
      <InputText
        v-model="text"
        autofocus
        aria-label="Note"
        placeholder="What was seen, heard, changed"
        maxlength="1000"
        autocomplete="off"
      />
      <label v-if="pull" class="about"><input v-model="aboutPull" type="checkbox" /> about pull {{ pull }}</label>
      <label class="photo">Photo or sheet <input type="file" multiple accept="image/*,.pdf" @change="choose" /></label>
      <ul v-if="day.state.notes.length > 0" class="earlier" aria-label="Notes of the day">
        <li v-for="note in [...day.state.notes].reverse()" :key="note.event">
          <b>{{ clock(note.atMs) }}</b> {{ note.text }}<span class="muted"> {{ note.pull }} · {{ note.by }}</span>
          <a v-for="file in note.files" :key="file" :href="api.attachmentAddress(programme.view!.id, file)" target="_blank">{{
            file.split('/').at(-1)
          }}</a>
        </li>
      </ul>
    </form>
    <template #actions>
      <Button text label="Close" @click="day.dialog = null" />
      <Button label="Keep the note" :disabled="text.trim() === ''" :loading="busy" @click="keep" />
    </template>
  </CellDialog>
</template>

<style scoped>
.note {
  display: grid;
  gap: 0.8rem;
}
.note > :first-child {
  font-size: 18px;
  min-height: 48px;
}
.photo,
.about {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  flex-wrap: wrap;
}
.earlier {
  list-style: none;
  padding: 0;
  max-height: 14rem;
  overflow: auto;
}
.earlier li {
  padding: 0.2rem 0;
  border-bottom: 1px solid var(--line);
}
.earlier a {
  margin-left: 0.5rem;
}
</style>
