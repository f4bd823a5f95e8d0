<script setup lang="ts">
import { GezeitError, readTableCsv, whyText, writeTableCsv, type BenchRow, type InputProblem, type TableField } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, ref, shallowRef } from 'vue';
import { ApiFailure, placeText } from '../../shared/api/client.js';
import { saveText } from '../../shared/save.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FailureNote from '../../shared/ui/FailureNote.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { useShow } from '../../shared/units/use-show.js';

/** Rows of readings, typed or from CSV; a bad file changes nothing. */
const props = defineProps<{ table: TableField; rows: readonly BenchRow[]; problems: readonly InputProblem[]; name: string }>();
const emit = defineEmits<{ change: [rows: BenchRow[]] }>();
const show = useShow();
const failure = shallowRef<ApiFailure | null>(null);
const note = ref('');
const LONG = 16;
const expanded = ref(false);
const shown = computed(() => (expanded.value ? props.rows : props.rows.slice(0, LONG)));
const problemOf = (row: number) => props.problems.filter((problem) => problem.row === row).map(({ message }) => message);

const blank = (): BenchRow => {
  const last = props.rows.at(-1);
  return Object.fromEntries(
    props.table.columns.map((column) => [
      column.name,
      column.kind === 'choice'
        ? ((last?.[column.name] as string) ?? column.value)
        : column.kind === 'text'
          ? ((last?.[column.name] as string) ?? null)
          : 'value' in column
            ? (column.value ?? null)
            : null,
    ]),
  );
};
const numberOf = (row: BenchRow, name: string) => (row[name] as number | null | undefined) ?? null;
const textOf = (row: BenchRow, name: string) => (row[name] as string | null | undefined) ?? null;
const setCell = (row: number, name: string, value: number | string | null) =>
  emit(
    'change',
    props.rows.map((entry, i) => (i === row ? { ...entry, [name]: value } : entry)),
  );
const add = () => {
  expanded.value = expanded.value || props.rows.length >= LONG;
  emit('change', [...props.rows, blank()]);
};
const remove = (row: number) =>
  emit(
    'change',
    props.rows.filter((_, i) => i !== row),
  );
const copy = (row: number) => emit('change', [...props.rows.slice(0, row + 1), { ...props.rows[row]! }, ...props.rows.slice(row + 1)]);

async function importCsv(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (!file) return;
  failure.value = null;
  note.value = '';
  try {
    const rows = readTableCsv(props.table, new Uint8Array(await file.arrayBuffer()), file.name);
    emit('change', rows);
    note.value = `${rows.length} rows from ${file.name}.`;
  } catch (error) {
    if (!(error instanceof GezeitError)) throw error;
    failure.value = new ApiFailure(error.message, error.nextStep, placeText(error.place));
  }
}
const exportCsv = () => saveText(`${props.name}-${props.table.name}.csv`, 'text/csv', writeTableCsv(props.table, props.rows));
</script>

<template>
  <div class="table-input">
    <div class="head">
      <h3>{{ table.label }}</h3>
      <label class="file"
        >Import CSV<input
          type="file"
          accept=".csv,.txt,text/csv"
          class="visually-hidden"
          :aria-label="`Import CSV of ${table.label}`"
          @change="importCsv"
      /></label>
      <Button v-if="rows.length" text size="small" label="Export CSV" :aria-label="`Export CSV of ${table.label}`" @click="exportCsv" />
      <Button v-if="table.example" text size="small" :label="`Take ${table.example.name}`" @click="emit('change', table.example.rows())" />
      <Button v-if="rows.length" text size="small" label="Clear" :aria-label="`Clear ${table.label}`" @click="emit('change', [])" />
    </div>
    <p class="muted small">{{ whyText(table, show.words) }}</p>
    <FailureNote v-if="failure" :failure="failure" />
    <p v-if="note" class="small" role="status">{{ note }}</p>
    <div v-if="rows.length" class="scroll">
      <table class="dense">
        <thead>
          <tr>
            <th
              v-for="column in table.columns"
              :key="column.name"
              :class="{ number: column.kind === 'number' }"
              :title="whyText(column, show.words)"
            >
              {{ column.label }}
            </th>
            <th><span class="visually-hidden">Row</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, index) in shown" :key="index" :class="{ bad: problemOf(index).length > 0 }">
            <td v-for="column in table.columns" :key="column.name" :class="{ number: column.kind === 'number' }">
              <NumberInput
                v-if="column.kind === 'number'"
                :model-value="numberOf(row, column.name)"
                :unit="column.unit"
                :difference="column.difference"
                :label="`${column.label}, row ${index + 1}`"
                :optional="true"
                width="4.6rem"
                @update:model-value="setCell(index, column.name, $event)"
              />
              <ChoiceInput
                v-else-if="column.kind === 'choice'"
                :model-value="textOf(row, column.name) ?? column.value"
                :choices="column.choices"
                :label="`${column.label}, row ${index + 1}`"
                @update:model-value="setCell(index, column.name, $event)"
              />
              <TextEdit
                v-else
                :model-value="textOf(row, column.name)"
                :label="`${column.label}, row ${index + 1}`"
                class="text"
                @commit="setCell(index, column.name, $event || null)"
              />
            </td>
            <td class="tools">
              <Button text size="small" icon="pi pi-copy" :aria-label="`Repeat row ${index + 1}`" @click="copy(index)" />
              <Button text size="small" icon="pi pi-times" :aria-label="`Remove row ${index + 1}`" @click="remove(index)" />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <Button size="small" text icon="pi pi-plus" label="Add a row" :aria-label="`Add a row to ${table.label}`" @click="add" />
    <Button
      v-if="rows.length > LONG"
      size="small"
      text
      :label="expanded ? 'Show fewer' : `Show all ${rows.length} rows`"
      @click="expanded = !expanded"
    />
  </div>
</template>

<style scoped>
.table-input {
  min-width: 0;
  margin-bottom: 0.5rem;
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0.6rem;
}
h3 {
  font-size: 0.95rem;
}
.file {
  color: var(--green);
  font-size: 13px;
  cursor: pointer;
  text-decoration: underline dotted;
}
.file:focus-within {
  outline: 2px solid var(--green);
}
td {
  white-space: nowrap;
}
td :deep(.p-inputtext),
td :deep(.p-select-label) {
  padding: 0.1rem 0.35rem;
}
.text {
  min-width: 6.5rem;
}
.bad td {
  background: color-mix(in srgb, var(--brick) 10%, transparent);
}
.tools {
  white-space: nowrap;
}
</style>
