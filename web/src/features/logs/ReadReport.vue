<script setup lang="ts">
import type { ChannelMapping, LogView, PullDetail, PullFinding, ReadColumn } from '@gezeit/contract';
import { HOW_WORDS, quantityWords, reasonsText } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import ColumnTable from '../../parts/ColumnTable.vue';
import { useProgramme } from '../../model/programme-store.js';

const AlignByHand = defineAsyncComponent(() => import('./AlignByHand.vue'));

/** What was taken for what in one file, corrected where it stands. */
const props = defineProps<{ log: LogView; logs: readonly LogView[]; finding?: PullFinding; detail?: PullDetail }>();

/** Alignments that have a sentence of their own; the others say by what they were found. */
const ALIGNED: Readonly<Record<string, string>> = {
  first: 'The clock of this log is the pull’s clock.',
  'same-clock': 'nothing in it tells: assumed to run on the same clock',
  'same-start': 'nothing in it tells: assumed to have been started together with the first log',
  curve: 'A curve over engine speed: needs no alignment.',
};
const alignment = computed(() => {
  const entry = props.detail?.alignments.find(({ file }) => file === props.log.file);
  if (!entry) return null;
  const words = ALIGNED[entry.how] ?? `aligned ${HOW_WORDS[entry.how] ?? entry.how}`;
  if (entry.how === 'first' || entry.how === 'curve') return words;
  const residual = entry.residualS === null ? '' : ` (within ${(1000 * entry.residualS).toFixed(0)} ms)`;
  const way = entry.offsetS < 0 ? 'behind' : 'ahead of';
  return `Its clock runs ${Math.abs(entry.offsetS).toFixed(2)} s ${way} the first log’s; ${words}${residual}.`;
});
// The log upon whose clock the others are put.
const lead = computed(() => {
  const file = props.detail?.alignments.find(({ how }) => how === 'first')?.file;
  return props.logs.find((entry) => entry.file === file) ?? null;
});
const movable = computed(
  () =>
    lead.value !== null &&
    lead.value.id !== props.log.id &&
    props.finding?.startS != null &&
    props.detail!.alignments.some(({ file, how }) => file === props.log.file && how !== 'curve'),
);
const aligning = ref(false);
watch([() => props.log.id, () => props.detail?.id], () => (aligning.value = false));
const programme = useProgramme();
const forAll = ref(true);
const problems = computed(() => props.log.report.problems ?? []);
const columns = computed<ReadColumn[]>(() =>
  props.log.report.columns.map((column) => ({
    header: column.header ?? column.name,
    quantity: column.takenFor,
    unit: column.unit,
    section: column.section ?? null,
    gauge: column.gauge ?? null,
    low: column.low ?? null,
    middle: column.middle ?? null,
    high: column.high ?? null,
    sure: column.sure ?? (column.takenFor === null ? 0 : 1),
    rivals: column.rivals ?? [],
    duplicateOf: column.duplicateOf ?? null,
    used: column.used ?? true,
    reasons: column.reasons ?? [],
    why: column.reasons ? reasonsText(column.reasons) : column.why || column.note || '',
  })),
);
const fileKey = computed(() => `file:${props.log.file}`);
const decided = computed(() => {
  const { channels } = programme.view!.bundle;
  return { ...channels?.[props.log.device], ...channels?.[fileKey.value] };
});

function decide(header: string, mapping: ChannelMapping | null): void {
  const scope = forAll.value ? props.log.device : fileKey.value;
  const what = mapping?.ignore
    ? `${header} of ${scope} left out`
    : mapping?.factor != null || mapping?.offset != null
      ? `Calibration of ${header} of ${scope} put right`
      : mapping?.quantity
        ? `${header} of ${scope} taken for ${quantityWords(mapping.quantity)}`
        : `${header} of ${scope} as the evidence says`;
  void programme.edit('channels', what, (channels) => {
    const next = { ...channels };
    const own = { ...next[scope] };
    if (mapping) own[header] = mapping;
    else {
      delete own[header];
      if (next[props.log.device]) delete next[props.log.device]![header];
    }
    next[scope] = own;
    return next;
  });
}

const size = computed(() => `${(props.log.byteCount / 1000).toFixed(0)} kB, ${props.log.rowCount} rows`);
</script>

<template>
  <section class="report">
    <h2>What was taken for what</h2>
    <p class="muted small">
      {{ size }} · {{ log.report.encoding }} · columns parted by {{ log.report.delimiter }} · decimal {{ log.report.decimalMark }} · header
      in row {{ log.report.headerRow }}<template v-if="log.report.unitsRow">, units in row {{ log.report.unitsRow }}</template
      ><template v-if="log.report.preamble.length"> · {{ log.report.preamble.length }} lines before it</template
      ><template v-if="log.report.remarks.length"> · remarks: {{ log.report.remarks.join('; ') }}</template>
    </p>
    <p v-if="alignment" class="small">
      {{ alignment }}
      <Button v-if="movable && !aligning" size="small" text label="Align by hand" @click="aligning = true" />
    </p>
    <AlignByHand v-if="movable && aligning" :lead="lead!" :log="log" :finding="finding!" :detail="detail!" @done="aligning = false" />
    <p v-for="note in log.report.notes" :key="note" class="small">{{ note }}</p>
    <ul v-if="problems.length > 0" class="problems small">
      <li v-for="problem in problems" :key="problem.what">
        <template v-if="problem.row !== null">Row {{ problem.row }}: </template>{{ problem.what }}
        <span class="muted">{{ problem.todo }}</span>
      </li>
    </ul>
    <label class="small scope"
      ><input v-model="forAll" type="checkbox" />corrections count for every file of {{ log.device }} in this programme</label
    >
    <ColumnTable :columns="columns" :decided="decided" @decide="decide" />
    <details class="small">
      <summary>SHA-256 of the original</summary>
      <code>{{ log.sha256 }}</code>
    </details>
  </section>
</template>

<style scoped>
.report {
  margin-top: 0.6rem;
}
.problems {
  padding-left: 1.1rem;
  margin: 0.2rem 0;
}
.scope {
  display: flex;
  gap: 0.4rem;
  margin: 0.3rem 0;
}
code {
  overflow-wrap: anywhere;
}
</style>
