<script setup lang="ts">
import { DEVICE_WORDS } from '@gezeit/core';
import type { DeviceProfile, ReadFile } from '@gezeit/contract';
import Button from 'primevue/button';
import { onMounted, ref, useTemplateRef } from 'vue';
import { answerSchemas } from '../../shared/api/answer-schemas.js';
import { saveText } from '../../shared/save.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { fitsProfile, useProfiles } from '../../model/profiles-store.js';

/** Device profiles: one from a file, those that were saved, each exported or removed. */
const props = defineProps<{ files: readonly ReadFile[] }>();
const emit = defineEmits<{ apply: [profile: DeviceProfile] }>();
const store = useProfiles();
onMounted(() => void store.load());

const input = useTemplateRef<HTMLInputElement>('input');
const says = ref<string | null>(null);

function apply(profile: DeviceProfile): void {
  const fits = props.files.filter((file) => fitsProfile(profile, file));
  if (fits.length === 0) {
    says.value = `“${profile.name}” fits none of these files: they lack some of its ${profile.match.length} columns.`;
    return;
  }
  says.value = `“${profile.name}” counts for ${fits.length} ${fits.length === 1 ? 'file' : 'files'}.`;
  emit('apply', profile);
}

/** A profile from a file counts at once, and is saved for the next ones. */
async function takeFile(): Promise<void> {
  const file = input.value?.files?.[0];
  input.value!.value = '';
  if (!file) return;
  let profile: DeviceProfile;
  try {
    profile = (await answerSchemas()).deviceProfileSchema.parse(JSON.parse(await file.text()));
  } catch {
    says.value = `${file.name} is no device profile: choose a file that was exported here as one.`;
    return;
  }
  apply(profile);
  await store.save(profile);
}
const decidedWords = ({ channels }: DeviceProfile) => {
  const count = Object.keys(channels).length;
  return count === 1 ? '1 column decided' : `${count} columns decided`;
};
const exportOne = (profile: DeviceProfile) =>
  saveText(`${profile.name.replace(/[^\p{L}\d]+/gu, '-')}-profile.json`, 'application/json', `${JSON.stringify(profile, null, 2)}\n`);
</script>

<template>
  <Button size="small" text label="Apply a device profile from a file" @click="input?.click()" />
  <input ref="input" type="file" accept=".json,application/json" hidden data-test="pick-profile" @change="takeFile" />
  <span v-if="says" role="status" class="small">{{ says }}</span>
  <FailureNote v-if="store.failure" :failure="store.failure" />
  <details v-if="store.profiles.length > 0" class="small">
    <summary>{{ store.profiles.length }} saved {{ store.profiles.length === 1 ? 'profile' : 'profiles' }}</summary>
    <ul>
      <li v-for="{ id, profile, savedBy } in store.profiles" :key="id">
        <b>{{ profile.name }}</b>, {{ DEVICE_WORDS[profile.device] ?? profile.device }}, {{ decidedWords(profile) }}, by {{ savedBy }}
        <Button size="small" text label="Apply" :aria-label="`Apply ${profile.name}`" @click="apply(profile)" />
        <Button size="small" text label="Export" :aria-label="`Export ${profile.name}`" @click="exportOne(profile)" />
        <Button size="small" text label="Remove" :aria-label="`Remove ${profile.name}`" @click="store.remove(id)" />
      </li>
    </ul>
  </details>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
}
</style>
