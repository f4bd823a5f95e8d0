<script setup lang="ts">
import type { PathSection, Setup } from '@gezeit/contract';
import Button from 'primevue/button';
import { shallowRef } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import { api, ApiFailure } from '../../shared/api/client.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { usePerson } from '../../shared/person-store.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { FINDING_WORDS, findingWord } from './section-words.js';
import { usePathEdit } from './use-path-edit.js';

/** What was found in a section of one setup, with photos. */
const props = defineProps<{ setup: Setup; section: PathSection }>();
const programme = useProgramme();
const person = usePerson();
const { patchSection } = usePathEdit();
const patch = (what: string, change: (now: PathSection) => Partial<PathSection>) =>
  void patchSection(props.setup.id, props.section.id, `${props.section.name}, ${what}`, change);
const failure = shallowRef<ApiFailure | null>(null);
const patchFinding = (index: number, what: string, change: Partial<PathSection['findings'][number]>) =>
  patch(what, (now) => ({ findings: now.findings.map((finding, i) => (i === index ? { ...finding, ...change } : finding)) }));
async function attach(index: number, event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (!file || !(await person.ensure())) return;
  failure.value = null;
  try {
    const photo = await api.attach(programme.view!.id, file);
    patchFinding(index, 'photo attached', { photo });
  } catch (error) {
    failure.value = ApiFailure.of(error, 'The photo could not be attached.', 'Try again.');
  }
  input.value = '';
}
/** The kinds on offer, and one that a bundle names itself. */
const findingKinds = (own: string) => ({ ...FINDING_WORDS, [own]: findingWord(own) });
</script>

<template>
  <div>
    <h3>What was found</h3>
    <div v-for="(finding, index) in section.findings" :key="index" class="finding">
      <ChoiceInput
        :model-value="finding.kind"
        :choices="findingKinds(finding.kind)"
        :label="`Kind of finding ${index + 1} in ${setup.id}`"
        @update:model-value="patchFinding(index, 'finding', { kind: $event })"
      />
      <TextEdit
        :model-value="finding.text"
        :label="`Finding ${index + 1} in ${setup.id}`"
        placeholder="what and where"
        @commit="patchFinding(index, 'finding', { text: $event })"
      />
      <a v-if="finding.photo" :href="api.attachmentAddress(programme.view!.id, finding.photo)" target="_blank"
        ><img :src="api.attachmentAddress(programme.view!.id, finding.photo)" :alt="finding.text || findingWord(finding.kind)"
      /></a>
      <label class="photo"
        >{{ finding.photo ? 'Another photo' : 'Photo'
        }}<input type="file" accept="image/*" class="visually-hidden" @change="attach(index, $event)"
      /></label>
      <Button
        text
        size="small"
        icon="pi pi-times"
        :aria-label="`Remove finding ${index + 1} from ${setup.id}`"
        @click="patch('finding removed', (now) => ({ findings: now.findings.filter((_, i) => i !== index) }))"
      />
    </div>
    <FailureNote v-if="failure" :failure="failure" />
    <Button
      text
      size="small"
      icon="pi pi-plus"
      label="Add a finding"
      :aria-label="`Add a finding to ${setup.id}`"
      @click="patch('finding added', (now) => ({ findings: [...now.findings, { kind: 'obstruction', text: '' }] }))"
    />
  </div>
</template>

<style scoped>
.finding {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto auto;
  gap: 0.3rem;
  align-items: center;
  margin-bottom: 0.2rem;
}
.finding a {
  grid-column: 1 / -1;
  grid-row: 2;
}
.finding img {
  max-width: 100%;
  max-height: 9rem;
  border: 1px solid var(--line);
}
.photo {
  color: var(--green);
  font-size: 13px;
  cursor: pointer;
  text-decoration: underline dotted;
}
.photo:focus-within {
  outline: 2px solid var(--green);
}
</style>
