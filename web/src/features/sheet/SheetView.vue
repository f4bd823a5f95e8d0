<script setup lang="ts">
import type { CheckedAgain, FixedEntry, SheetSource } from '@gezeit/contract';
import { inputWord } from '@gezeit/core';
import Button from 'primevue/button';
import Menu from 'primevue/menu';
import ProgressBar from 'primevue/progressbar';
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { beforeVerdict } from '../../model/next-step.js';
import { useProgramme } from '../../model/programme-store.js';
import { useSelection } from '../../model/use-selection.js';
import NextStep from '../../parts/NextStep.vue';
import { api, ApiFailure } from '../../shared/api/client.js';
import { whoAsks } from '../../shared/api/seat.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import { saveTable, saveText } from '../../shared/save.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import BenchPaper from './BenchPaper.vue';
import ClaimChecker from './ClaimChecker.vue';
import EverySetupPapers from './EverySetupPapers.vue';
import FixDialog from './FixDialog.vue';
import { SHEET_TABLES } from './sheet-tables.js';
import { standaloneHtml } from './sheet-file.js';
import PublicPaper from './PublicPaper.vue';
import SheetPaper from './SheetPaper.vue';
import SideBySidePaper from './SideBySidePaper.vue';

/** What leaves the house: the validation sheet as it prints, of the answers as they are or as they were fixed. */
const programme = useProgramme();
const selection = useSelection();
const route = useRoute();
const router = useRouter();
const source = shallowRef<SheetSource | null>(null);
const shownFixed = shallowRef<FixedEntry | null>(null);
const failure = shallowRef<ApiFailure | null>(null);
const checked = shallowRef<CheckedAgain | null>(null);
const checking = ref(false);
const fixing = ref(false);
const sheetBox = useTemplateRef<HTMLElement>('sheetBox');
let asking: AbortController | null = null;

const KINDS = {
  validation: 'validation sheet',
  every: 'sheets of every setup',
  beside: 'setups beside each other',
  bench: 'found on the bench',
  public: 'public short version',
};
type Kind = keyof typeof KINDS;
const PAPER_OF = { validation: SheetPaper, every: EverySetupPapers, beside: SideBySidePaper, bench: BenchPaper, public: PublicPaper };
const FILE_OF = { validation: 'sheet', every: 'sheets', beside: 'beside', bench: 'bench', public: 'public' };
/** Papers that are of all setups at once. */
const OF_ALL: readonly Kind[] = ['every', 'beside', 'bench'];
const PAPERS = { A4: 'A4', letter: 'Letter' };
const NOW = 'now';
const view = computed(() => programme.view!);
const next = computed(() => beforeVerdict(view.value));
const paper = computed({
  get: () => (route.query['paper'] === 'letter' ? 'letter' : 'A4'),
  set: (paper: string) => void router.replace({ query: { ...route.query, paper } }),
});
const kind = computed({
  get: (): Kind => (Object.keys(KINDS).find((name) => name === route.query['version']) as Kind | undefined) ?? 'validation',
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
/** What has changed since, as it is known by now. */
const entry = computed(() => view.value.fixed.find(({ id }) => id === shownFixed.value?.id) ?? shownFixed.value);
const fileName = computed(
  () =>
    `${FILE_OF[kind.value]}${OF_ALL.includes(kind.value) ? '' : `-${candidate.value ?? ''}`}${entry.value ? `-${entry.value.id}` : '-not-fixed'}`,
);

async function read(): Promise<void> {
  asking?.abort();
  const controller = (asking = new AbortController());
  failure.value = null;
  checked.value = null;
  try {
    if (chosen.value === NOW) {
      const fresh = await api.sheet(view.value.id, controller.signal);
      if (controller.signal.aborted) return;
      shownFixed.value = null;
      source.value = fresh;
      return;
    }
    const answer = await api.fixed(view.value.id, chosen.value, controller.signal);
    if (controller.signal.aborted) return;
    shownFixed.value = answer.entry;
    source.value = answer.fixed.sheet;
  } catch (error) {
    if (!controller.signal.aborted) failure.value = ApiFailure.of(error, 'The sheet could not be read.', 'Reload the page.');
  }
}
// A fixed one does not follow what is changed: that is what it is for. Another one than was shown is not shown in its place until it is there.
watch(
  [() => programme.stored?.id, chosen, () => (chosen.value === NOW ? programme.stored?.stamp : '')],
  ([id, key], [idBefore, keyBefore]) => {
    if (id !== idBefore || key !== keyBefore) {
      source.value = null;
      shownFixed.value = null;
    }
    if (!next.value) void read();
  },
  { immediate: true },
);

async function checkAgain(): Promise<void> {
  checking.value = true;
  failure.value = null;
  try {
    checked.value = await api.checkFixed(view.value.id, shownFixed.value!.id);
  } catch (error) {
    failure.value = ApiFailure.of(error, 'It could not be computed again.', 'Try again.');
  } finally {
    checking.value = false;
  }
}
async function fix(why: string): Promise<void> {
  const failed = await programme.change((id) => api.fix(id, why));
  failure.value = failed;
  if (failed) return;
  fixing.value = false;
  chosen.value = view.value.fixed[0]!.id;
}
async function takeAway(): Promise<void> {
  const { id: key } = shownFixed.value!;
  if (await programme.changeAloud((id) => api.removeFixed(id, key))) chosen.value = NOW;
}
async function saveHtml(): Promise<void> {
  const sheet = sheetBox.value!.querySelector('.papers, .paper')!;
  saveText(
    `${fileName.value}.html`,
    'text/html',
    await standaloneHtml(sheet, `${view.value.bundle.programme.title}: ${KINDS[kind.value]}`),
  );
}
function saveFindings(): void {
  saveText(`${fileName.value}.json`, 'application/json', `${JSON.stringify(source.value!.findings, null, 2)}\n`);
}
const tableMenu = useTemplateRef<InstanceType<typeof Menu>>('tableMenu');
const tables = Object.entries(SHEET_TABLES).map(([name, { label, of }]) => ({
  label,
  command: () => void saveTable(`${fileName.value}-${name}.csv`, of(source.value!, candidate.value!)),
}));
const print = () => window.print();
const printing = ref(false);
/** By the Chromium of the machine that serves Gezeit: the same paper on every desk. Where none is, that is said, with what to do. */
async function savePdf(): Promise<void> {
  printing.value = true;
  failure.value = null;
  try {
    const sheet = sheetBox.value!.querySelector('.papers, .paper')!;
    const html = await standaloneHtml(sheet, fileName.value, pageRule.value);
    const pdf = await api.bytes('/api/pdf', {
      method: 'POST',
      headers: { ...whoAsks(), 'content-type': 'text/html' },
      body: html,
    });
    saveText(`${fileName.value}.pdf`, 'application/pdf', pdf);
  } catch (error) {
    failure.value = ApiFailure.of(error, 'The PDF could not be made.', 'Use Print: your browser makes it.');
  } finally {
    printing.value = false;
  }
}
const pageRule = computed(() => `@page { size: ${paper.value}; margin: 14mm 12mm; }`);
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
        v-if="Object.keys(candidates).length > 1 && !OF_ALL.includes(kind)"
        :model-value="candidate"
        :choices="candidates"
        label="Which setup"
        @update:model-value="selection.candidate.value = $event"
      />
      <ChoiceInput v-model="kind" :choices="KINDS" label="For whom" />
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
    <div v-if="checked" class="checked" role="status">
      <p v-if="checked.differing.length === 0">
        <b>The same again:</b> every estimate and answer to six figures{{
          checked.sameInputs ? ', from the same inputs' : ', although inputs have changed'
        }}.
      </p>
      <template v-else>
        <p>
          <b>{{ checked.differing.length }} figures differ</b>{{ checked.sameInputs ? '' : ': it was computed from what its inputs are now'
          }}{{ checked.sameMethod ? '' : ', by another method' }}.
        </p>
        <table class="dense">
          <thead>
            <tr>
              <th>Where</th>
              <th>Fixed</th>
              <th>Now</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in checked.differing" :key="row.where">
              <td>{{ row.where }}</td>
              <td>{{ row.fixed }}</td>
              <td>{{ row.now }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </div>
    <ClaimChecker v-if="candidate && source && !shownFixed" :candidate="candidate" :source="source" />
    <div ref="sheetBox" class="board">
      <component :is="PAPER_OF[kind]" v-if="source && candidate" :source="source" :candidate="candidate" :fixed="entry" />
      <p v-else-if="source" class="muted">Nothing is compared: there is no sheet yet.</p>
      <template v-else>
        <h1 class="visually-hidden">Sheet</h1>
        <p class="muted">Putting the sheet together…</p>
        <ProgressBar mode="indeterminate" style="height: 4px" aria-label="Putting the sheet together" />
      </template>
    </div>
    <FixDialog v-model:visible="fixing" :failure="failure" :busy="programme.busy" @fix="fix" />
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
.checked {
  margin-bottom: 0.6rem;
}
.board :deep(.paper) {
  box-shadow: 0 1px 8px #0003;
}
@media print {
  .tools,
  .stale,
  .checked {
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
