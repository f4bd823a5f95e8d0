<script setup lang="ts" generic="Row">
import Button from 'primevue/button';
import Checkbox from 'primevue/checkbox';
import ChoiceInput from './ChoiceInput.vue';
import NumberInput from './NumberInput.vue';
import OwnUnitNumber from './OwnUnitNumber.vue';
import TextEdit from './TextEdit.vue';
import type { CellValue, RowColumn } from './row-columns.js';

/** Rows that are typed where they stand, by the description of their columns; each cell saves by itself when it is left. */
const props = defineProps<{
  rows: readonly Row[];
  columns: readonly RowColumn<Row>[];
  /** What tells one row from the other while they are edited. */
  rowKey: (row: Row, index: number) => string | number;
  /** What the button says that removes a row; null where it stays. */
  removes: (row: Row, index: number) => string | null;
  /** Whether the columns need no heads. */
  headless?: boolean;
}>();
const emit = defineEmits<{ set: [row: Row, name: string, value: CellValue, index: number]; remove: [row: Row, index: number] }>();
const isNumber = (column: RowColumn<Row>) =>
  column.kind === 'number' || column.kind === 'own-unit' || (column.kind === 'shown' && column.isNumber);
const typedIn = (column: RowColumn<Row>, row: Row) => column.isTyped?.(row) ?? true;

function onText(column: Extract<RowColumn<Row>, { kind: 'text' }>, row: Row, index: number, value: string): void {
  if (value !== '' || !column.needed) emit('set', row, column.name, value || null, index);
}
defineSlots<Record<string, (of: { row: Row; index: number }) => unknown>>();
const removal = (row: Row, index: number) => props.removes(row, index) ?? undefined;
</script>

<template>
  <div class="scroll">
    <table class="dense">
      <thead v-if="!headless">
        <tr>
          <th v-for="column in columns" :key="column.name" :class="{ number: isNumber(column) }" :title="column.title">
            {{ column.label }}
          </th>
          <th><span class="visually-hidden">Remove</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, index) in rows" :key="rowKey(row, index)">
          <td v-for="column in columns" :key="column.name" :class="[column.kind, { number: isNumber(column) }]">
            <template v-if="typedIn(column, row)">
              <TextEdit
                v-if="column.kind === 'text'"
                :model-value="column.of(row)"
                :label="column.aria(row, index)"
                :placeholder="column.placeholder"
                @commit="onText(column, row, index, $event)"
              />
              <NumberInput
                v-else-if="column.kind === 'number'"
                :model-value="column.of(row)"
                :unit="column.unit"
                :label="column.aria(row, index)"
                optional
                :width="column.width"
                @commit="emit('set', row, column.name, $event, index)"
              />
              <OwnUnitNumber
                v-else-if="column.kind === 'own-unit'"
                :value="column.of(row)"
                :unit="column.unitOf(row)"
                :difference="column.difference"
                :label="column.aria(row, index)"
                :least="column.least"
                @commit="emit('set', row, column.name, $event, index)"
              />
              <ChoiceInput
                v-else-if="column.kind === 'choice'"
                :model-value="column.of(row)"
                :choices="column.choices"
                :label="column.aria(row, index)"
                :placeholder="column.placeholder"
                @update:model-value="emit('set', row, column.name, $event, index)"
              />
              <Checkbox
                v-else-if="column.kind === 'check'"
                :model-value="column.of(row)"
                binary
                :aria-label="column.aria(row, index)"
                @update:model-value="emit('set', row, column.name, $event, index)"
              />
              <template v-else>{{ column.of(row) }}</template>
            </template>
            <slot :name="column.name" :row="row" :index="index" />
          </td>
          <td>
            <Button
              v-if="removal(row, index)"
              text
              size="small"
              icon="pi pi-times"
              :aria-label="removal(row, index)"
              @click="emit('remove', row, index)"
            />
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
td {
  white-space: nowrap;
}
td.shown {
  white-space: normal;
}
td.text {
  min-width: 7rem;
}
</style>
