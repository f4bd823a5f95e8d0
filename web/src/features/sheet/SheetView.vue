<script setup lang="ts">
import { inputWord } from '@gezeit/core';
import Button from 'primevue/button';
import Menu from 'primevue/menu';
import ProgressBar from 'primevue/progressbar';
import { computed, ref, useTemplateRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { beforeVerdict } from '../../model/next-step.js';
import { useProgramme } from '../../model/programme-store.js';
import { useSelection } from '../../model/use-selection.js';
import NextStep from '../../parts/NextStep.vue';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FailureNote from '../../shared/ui/FailureNote.vue';
import CheckedNote from './CheckedNote.vue';
import ClaimChecker from './ClaimChecker.vue';
import FixDialog from './FixDialog.vue';
import { SHEET_VERSION_TITLES, SHEET_VERSIONS, sheetVersionOf } from './sheet-versions.js';
import { useSheetFiles } from './use-sheet-files.js';
import { NOW, useSheetSource } from './use-sheet-source.js';

/** What leaves the house: the validation sheet as it prints, of the answers as they are or as they were fixed. */
const programme = useProgramme();
const selection = useSelection();
const route = useRoute();
const router = useRouter();
const fixing = ref(false);
const sheetBox = useTemplateRef<HTMLElement>('sheetBox');

const PAPERS = { A4: 'A4', letter: 'Letter' };
const view = computed(() => programme.view!);
const next = computed(() => beforeVerdict(view.value));
const paper = computed({
  get: () => (route.query['paper'] === 'letter' ? 'letter' : 'A4'),
  set: (paper: string) => void router.replace({ query: { ...route.query, paper } }),
});
const version = computed({
  get: () => sheetVersionOf(route.query['version']),
  set: (version: string) => void router.replace({ query: { ...route.query, version: version === 'validation' ? undefined : version } }),
});
const chosen = computed({
  get: () => (typeof route.query['fixed'] === 'string' ? route.query['fixed'] : NOW),
  set: (key: string) => void router.replace({ query: { ...route.query, fixed: key === NOW ? undefined : key } }),
});
const choices = computed(() => ({
  [NOW]: 'as it is now, not fixed',
  ...Object.fromEntries(
    view.value.fixed.map(({ id, at, why, changed }) => [id, `${at.slice(0, 10)} ${why}${changed.length > 0 ? ' (out of date)' : ''}`]),
  ),
}));
const { source, shownFixed, entry, failure, checked, checking, checkAgain, fix, takeAway } = useSheetSource(chosen, () => !next.value);
const candidates = computed(() =>
  Object.fromEntries(
    (source.value?.findings.comparisons ?? []).map(({ candidate }) => [
      candidate,
      `${candidate} ${source.value!.bundle.setups.find(({ id }) => id === candidate)?.name ?? ''}`,
    ]),
  ),
);
const candidate = computed(() => {
  const known = Object.keys(candidates.value);
  const asked = selection.candidate.value;
  return asked !== null && known.includes(asked) ? asked : (known[0] ?? null);
});

const shown = computed(() => SHEET_VERSIONS[version.value]);
const pageRule = computed(() => `@page { size: ${paper.value}; margin: 14mm 12mm; }`);
const fileName = computed(
  () => `${shown.value.file}${shown.value.ofAll ? '' : `-${candidate.value ?? ''}`}${entry.value ? `-${entry.value.id}` : '-not-fixed'}`,
);
const { printing, saveHtml, savePdf, saveFindings, tables } = useSheetFiles(
  () => ({
    box: sheetBox.value!,
    source: source.value!,
    candidate: candidate.value!,
    fileName: fileName.value,
    title: `${view.value.bundle.programme.title}: ${shown.value.title}`,
    pageRule: pageRule.value,
  }),
  failure,
);
const tableMenu = useTemplateRef<InstanceType<typeof Menu>>('tableMenu');
const print = () => window.print();
async function fixFor(why: string): Promise<void> {
  if (await fix(why)) fixing.value = false;
}
</script>

<template>
  <div v-if="next" class="page">
    <h1 class="visually-hidden">Sheet</h1>
    <NextStep v-bind="next" />
  </div>
  <div v-else class="page sheet">
    <component :is="'style'">{{ pageRule }}</component>
    <div class="tools" role="group" aria-label="What is shown, and how it leaves">
      <ChoiceInput v-model="chosen" :choices="choices" label="Which state of the answers" />
      <ChoiceInput
        v-if="Object.keys(candidates).length > 1 && !shown.ofAll"
        :model-value="candidate"
        :choices="candidates"
        label="Which setup"
        @update:model-value="selection.candidate.value = $event"
      />
      <ChoiceInput v-model="version" :choices="SHEET_VERSION_TITLES" label="For whom" />
      <ChoiceInput v-model="paper" :choices="PAPERS" label="Paper" />
      <span class="spacer" />
      <Button v-if="!shownFixed" size="small" label="Fix these answers" :disabled="!source || !candidate" @click="fixing = true" />
      <template v-else>
        <Button size="small" outlined label="Check again" :loading="checking" @click="checkAgain()" />
        <Button size="small" text label="Take away" @click="takeAway()" />
      </template>
      <Button size="small" outlined icon="pi pi-print" label="Print" :disabled="!candidate" @click="print()" />
      <Button
        size="small"
        outlined
        label="PDF"
        aria-label="Save the sheet as PDF"
        :disabled="!candidate || !source"
        :loading="printing"
        @click="savePdf()"
      />
      <Button size="small" text label="HTML" aria-label="Save the sheet as one HTML file" :disabled="!candidate" @click="saveHtml()" />
      <Button
        size="small"
        text
        label="CSV"
        aria-label="Save its data as CSV"
        aria-haspopup="menu"
        :disabled="!candidate || !source"
        @click="tableMenu!.toggle($event)"
      />
      <Menu ref="tableMenu" :model="tables" popup aria-label="Which data" />
      <Button size="small" text label="JSON" aria-label="Save its findings as JSON" :disabled="!candidate" @click="saveFindings()" />
      <a class="bundle" :href="`/api/programmes/${view.id}/bundle`" download>whole programme (.zip)</a>
    </div>
    <FailureNote v-if="failure" :failure="failure" />
    <p v-if="entry && entry.changed.length > 0" class="stale" role="status">
      <b>Out of date.</b> Changed since it was fixed: {{ entry.changed.map(inputWord).join('; ') }}. Its figures stay as they were.
    </p>
    <CheckedNote v-if="checked" :checked="checked" />
    <ClaimChecker v-if="candidate && source && !shownFixed" :candidate="candidate" :source="source" />
    <div ref="sheetBox" class="board">
      <component :is="shown.paper" v-if="source && candidate" :source="source" :candidate="candidate" :fixed="entry" />
      <p v-else-if="source" class="muted">Nothing is compared: there is no sheet yet.</p>
      <template v-else>
        <h1 class="visually-hidden">Sheet</h1>
        <template v-if="!failure">
          <p class="muted">Putting the sheet together…</p>
          <ProgressBar mode="indeterminate" style="height: 4px" aria-label="Putting the sheet together" />
        </template>
      </template>
    </div>
    <FixDialog v-model:visible="fixing" :failure="failure" :busy="programme.busy" @fix="fixFor" />
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
  margin-bottom: 0.6rem;
}
.spacer {
  flex: 1;
}
.bundle {
  font-size: 13px;
}
.stale {
  color: var(--brick);
}
.board :deep(.paper) {
  box-shadow: 0 1px 8px #0003;
}
@media print {
  .tools,
  .stale {
    display: none;
  }
  .sheet {
    padding: 0;
    max-width: none;
  }
  .board :deep(.paper) {
    box-shadow: none;
  }
}
</style>
