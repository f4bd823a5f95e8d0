<script setup lang="ts">
import { SECTION_PURPOSES, type PathSection, type Setup } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed } from 'vue';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { PURPOSE_WORDS } from './section-words.js';
import { usePathEdit } from './use-path-edit.js';

/** What a section of one setup is there for, and what the new part does instead. */
const props = defineProps<{ setup: Setup; section: PathSection }>();
const { patchSection } = usePathEdit();
const patch = (what: string, change: (now: PathSection) => Partial<PathSection>) =>
  void patchSection(props.setup.id, props.section.id, `${props.section.name}, ${what}`, change);
const openPurposes = computed(() =>
  Object.fromEntries(
    SECTION_PURPOSES.filter((purpose) => !props.section.purposes.some((entry) => entry.purpose === purpose)).map((purpose) => [
      purpose,
      PURPOSE_WORDS[purpose],
    ]),
  ),
);
const patchPurpose = (index: number, change: Partial<PathSection['purposes'][number]>) =>
  patch('purpose', (now) => ({ purposes: now.purposes.map((entry, i) => (i === index ? { ...entry, ...change } : entry)) }));
</script>

<template>
  <div>
    <h3>What it is there for</h3>
    <div v-for="(entry, index) in section.purposes" :key="entry.purpose" class="purpose">
      <span class="what"
        ><b>{{ PURPOSE_WORDS[entry.purpose] }}</b>
        <Button
          text
          size="small"
          icon="pi pi-times"
          :aria-label="`Remove ${PURPOSE_WORDS[entry.purpose]} from ${setup.id}`"
          @click="patch('purpose removed', (now) => ({ purposes: now.purposes.filter((_, i) => i !== index) }))"
      /></span>
      <TextEdit
        :model-value="entry.replacedBy"
        :label="`What ${setup.id} does instead for ${PURPOSE_WORDS[entry.purpose]}`"
        placeholder="what the new part does instead"
        @commit="patchPurpose(index, { replacedBy: $event })"
      />
      <TextEdit
        :model-value="entry.checkedHow"
        :label="`How it was checked in ${setup.id}: ${PURPOSE_WORDS[entry.purpose]}`"
        placeholder="how that was checked"
        @commit="patchPurpose(index, { checkedHow: $event })"
      />
    </div>
    <ChoiceInput
      :model-value="null"
      :choices="openPurposes"
      :label="`Add a purpose to ${setup.id}`"
      placeholder="add a purpose…"
      @update:model-value="
        patch('purpose added', (now) => ({
          purposes: [...now.purposes, { purpose: $event as PathSection['purposes'][number]['purpose'], replacedBy: '', checkedHow: '' }],
        }))
      "
    />
  </div>
</template>

<style scoped>
.purpose {
  display: grid;
  gap: 0.15rem;
  margin-bottom: 0.4rem;
}
.what {
  display: flex;
  align-items: center;
  gap: 0.3rem;
}
</style>
