<script setup lang="ts">
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import ProgressBar from 'primevue/progressbar';
import { computed, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import { ApiFailure, placeText } from '../../shared/api/client.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { pickedFiles } from './dropped-files.js';
import { takeFiles } from './take-files.js';
import { useImport } from '../../model/import-store.js';

/** Importing: choosing the bundle, its progress, and what came of it. */
const importing = useImport();
const router = useRouter();
const folderInput = useTemplateRef<HTMLInputElement>('folderInput');
const zipInput = useTemplateRef<HTMLInputElement>('zipInput');

const STEP_WORDS = {
  receiving: 'Receiving the files',
  unpacking: 'Looking into the bundle',
  reading: 'Reading the logs',
  judging: 'Finding pulls and comparing setups',
  storing: 'Storing',
  done: 'Done',
};
const outcome = computed(() => importing.state?.outcome ?? null);
const failure = computed(() => {
  if (importing.failure) return importing.failure;
  if (outcome.value?.kind !== 'failed') return null;
  const { message, nextStep, place, code } = outcome.value.error;
  return new ApiFailure(message, nextStep, placeText(place), code);
});

function onPicked(event: Event): void {
  const input = event.target as HTMLInputElement;
  if (input.files) void takeFiles(pickedFiles(input.files), router);
  input.value = '';
}

function openProgramme(id: string): void {
  importing.open = false;
  void router.push({ name: 'verdict', params: { id } });
}
</script>

<template>
  <Dialog v-model:visible="importing.open" modal header="Bring files in" :style="{ width: '38rem' }" :closable="true">
    <template v-if="importing.running">
      <p>
        {{ importing.sending !== null ? 'Sending the files' : STEP_WORDS[importing.state!.step] }}
        <span class="muted">{{ importing.state?.detail }}</span>
      </p>
      <ProgressBar
        :value="Math.round(100 * importing.progress)"
        :show-value="false"
        style="height: 8px"
        aria-label="Progress of the import"
      />
      <div class="actions">
        <Button text label="Go on in the background" @click="importing.open = false" />
        <Button outlined label="Cancel" @click="importing.cancel()" />
      </div>
    </template>
    <template v-else-if="outcome?.kind === 'needs-choice'">
      <p>“{{ outcome.title }}” is there already, and this bundle differs from it.</p>
      <div class="actions">
        <Button text label="Cancel" @click="importing.cancel()" />
        <Button outlined label="Keep as a copy" @click="importing.choose('copy')" />
        <Button label="New version" autofocus @click="importing.choose('version')" />
      </div>
    </template>
    <template v-else-if="outcome?.kind === 'opened' || outcome?.kind === 'imported'">
      <p v-if="outcome.kind === 'opened'">This very bundle is imported already.</p>
      <template v-else>
        <p>Imported, original files kept byte for byte.</p>
        <details v-if="outcome.notes.length > 0" class="report" open>
          <summary>{{ outcome.notes.length }} {{ outcome.notes.length === 1 ? 'remark' : 'remarks' }} of the reader</summary>
          <ul>
            <li v-for="note in outcome.notes" :key="note">{{ note }}</li>
          </ul>
        </details>
        <p v-else class="muted">No column is in question; what each was taken for stands in Logs.</p>
      </template>
      <div class="actions">
        <Button text label="Import another" @click="importing.reset()" />
        <Button label="Open the programme" autofocus @click="openProgramme(outcome.programmeId)" />
      </div>
    </template>
    <template v-else>
      <FailureNote v-if="failure && failure.code !== 'cancelled'" :failure="failure"
        ><span class="muted">Nothing was stored.</span></FailureNote
      >
      <p v-else-if="outcome?.kind === 'cancelled' || failure" class="muted">Cancelled. Nothing was stored.</p>
      <p class="hint">
        The exports of a day, as the loggers and the dyno wrote them: several devices, one file a pull or one for the whole day. They are
        read and brought to pulls, and you sort them. Or a bundle: a folder or .zip with <code>gezeit.json</code>. Drop them anywhere on the
        page, or choose:
      </p>
      <div class="actions">
        <Button outlined icon="pi pi-file" label="Choose files" @click="zipInput?.click()" />
        <Button icon="pi pi-folder-open" label="Choose a folder" @click="folderInput?.click()" />
      </div>
    </template>
    <input ref="folderInput" type="file" webkitdirectory hidden data-test="pick-folder" @change="onPicked" />
    <input ref="zipInput" type="file" multiple hidden data-test="pick-files" @change="onPicked" />
  </Dialog>
</template>

<style scoped>
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 0.6rem;
  margin-top: 1rem;
}
.report {
  margin-top: 0.5rem;
  max-height: 14rem;
  overflow: auto;
}
.report ul {
  padding-left: 1.1rem;
  font-size: 13.5px;
}
.hint {
  margin-top: 0.6rem;
}
</style>
