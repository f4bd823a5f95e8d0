<script setup lang="ts">
import { calibrationTerms, fromSi, quantityWords, UNITS, unitsFor, type UnitName } from '@gezeit/core';
import { QUANTITIES, type ChannelMapping, type Quantity, type ReadColumn } from '@gezeit/contract';
import { computed, defineAsyncComponent, ref } from 'vue';

const CalibrationDialog = defineAsyncComponent(() => import('./CalibrationDialog.vue'));

/** What each column of a file is taken for, how sure and why, corrected where it stands. Unknown ones come first. */
const props = defineProps<{ columns: readonly ReadColumn[]; decided: Readonly<Record<string, ChannelMapping>> }>();
const emit = defineEmits<{ decide: [header: string, mapping: ChannelMapping | null] }>();

interface Row {
  column: ReadColumn;
  mapping: ChannelMapping | null;
  rank: number;
}
/** Asked about first, then what was not recognised at all, then what is sure. */
function rankOf({ quantity, rivals, sure }: ReadColumn): number {
  if (quantity === null) return rivals.length > 0 ? 0 : 2;
  return sure < 0.9 ? 1 : 3;
}
const rows = computed<Row[]>(() =>
  props.columns
    .map((column) => ({ column, mapping: props.decided[column.header] ?? null, rank: rankOf(column) }))
    .sort((a, b) => a.rank - b.rank),
);
const WORDS = [...QUANTITIES].map((quantity) => [quantity, quantityWords(quantity)] as const).sort(([, a], [, b]) => a.localeCompare(b));
const chosen = ({ column, mapping }: Row) => (mapping?.ignore ? 'ignore' : (column.quantity ?? ''));

function choose({ column, mapping }: Row, value: string): void {
  if (value === '') emit('decide', column.header, null);
  else if (value === 'ignore') emit('decide', column.header, { ignore: true });
  else emit('decide', column.header, { ...without(mapping), quantity: value as Quantity });
}
const without = (mapping: ChannelMapping | null): ChannelMapping => {
  const { ignore, ...rest } = mapping ?? {};
  void ignore;
  return rest;
};
const change = ({ column, mapping }: Row, entry: Partial<ChannelMapping>) =>
  emit('decide', column.header, { ...without(mapping), quantity: column.quantity ?? mapping?.quantity ?? null, ...entry });
const calibrating = ref<Row | null>(null);
/** What was put right about a column's calibration, as far as it is decided. */
const calibrationWords = ({ mapping }: Row) =>
  calibrationTerms({
    factor: mapping?.factor ?? 1,
    offset: mapping?.offset ?? 0,
    unit: mapping?.unit ?? null,
    from: mapping?.from ?? null,
    to: mapping?.to ?? null,
  }) || 'as read';
/** In the unit in which the column is written: those are the figures that the file shows. */
function shownIn({ quantity, unit }: ReadColumn, value: number | null): string {
  const known = quantity !== null && unit !== null && unit in UNITS ? (unit as UnitName) : null;
  return figure(value === null || known === null ? value : fromSi(value, known));
}
/** To four figures, without zeros behind. */
function figure(value: number | null): string {
  if (value === null) return '';
  const size = Math.abs(value);
  return `${value < 0 ? '−' : ''}${size >= 1000 ? size.toFixed(0) : Number(size.toPrecision(4))}`;
}
const sureWords = ({ quantity, sure, rivals }: ReadColumn) =>
  quantity === null
    ? rivals[0]
      ? `perhaps ${rivals.map((rival) => quantityWords(rival.quantity)).join(', or ')}`
      : ''
    : `${Math.round(100 * sure)} %`;
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Columns of the file">
    <table class="dense small figures">
      <thead>
        <tr>
          <th>Column</th>
          <th>Taken for</th>
          <th>Unit</th>
          <th class="number">Least</th>
          <th class="number">Middle</th>
          <th class="number">Greatest</th>
          <th>Calibration</th>
          <th>How sure</th>
          <th>Why</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.column.header" :data-column="row.column.header">
          <td><b v-if="row.rank === 0">{{ row.column.header }}</b><template v-else>{{ row.column.header }}</template></td>
          <td>
            <select
              :value="chosen(row)"
              :class="{ ask: row.rank === 0 }"
              :aria-label="`${row.column.header}: taken for`"
              @change="choose(row, ($event.target as HTMLSelectElement).value)"
            >
              <option value="">{{ row.mapping ? 'as the evidence says' : 'not known' }}</option>
              <option value="ignore">ignore it</option>
              <option v-for="[quantity, words] in WORDS" :key="quantity" :value="quantity">{{ words }}</option>
            </select>
            <input
              v-if="row.column.quantity === 'pressureDrop'"
              class="section"
              :value="row.column.section ?? ''"
              placeholder="section"
              :aria-label="`${row.column.header}: section`"
              @change="change(row, { section: ($event.target as HTMLInputElement).value.trim() || null })"
            />
            <label v-if="row.column.gauge !== null && row.column.quantity !== 'boostPressure'" class="gauge"
              ><input
                type="checkbox"
                :checked="row.column.gauge"
                @change="change(row, { gauge: ($event.target as HTMLInputElement).checked })"
              />against ambient</label
            >
          </td>
          <td>
            <select
              v-if="row.column.quantity && unitsFor(row.column.quantity).length > 0"
              :value="row.column.unit ?? ''"
              :aria-label="`${row.column.header}: unit`"
              @change="change(row, { unit: ($event.target as HTMLSelectElement).value })"
            >
              <option v-for="unit in unitsFor(row.column.quantity)" :key="unit" :value="unit">{{ unit }}</option>
            </select>
            <template v-else>{{ row.column.unit ?? '' }}</template>
          </td>
          <td class="number">{{ shownIn(row.column, row.column.low) }}</td>
          <td class="number">{{ shownIn(row.column, row.column.middle) }}</td>
          <td class="number">{{ shownIn(row.column, row.column.high) }}</td>
          <td>
            <button
              v-if="row.column.quantity && row.column.quantity !== 'time' && !row.mapping?.ignore"
              type="button"
              class="calibration"
              :aria-label="`${row.column.header}: calibration ${calibrationWords(row)}`"
              title="Found wrong afterwards? Put it right: a factor, an offset, and the days on which they count."
              @click="calibrating = row"
            >
              {{ calibrationWords(row) }}
            </button>
          </td>
          <td>{{ sureWords(row.column) }}<span v-if="row.column.quantity && !row.column.used" class="muted"> not used</span></td>
          <td class="why">{{ row.column.why }}</td>
        </tr>
      </tbody>
    </table>
    <CalibrationDialog
      v-if="calibrating"
      :column="calibrating.column"
      :mapping="calibrating.mapping"
      @decide="change(calibrating, $event)"
      @close="calibrating = null"
    />
  </div>
</template>

<style scoped>
select,
.section {
  font: inherit;
  max-width: 15rem;
  background: var(--surface);
  color: var(--ink);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0.05rem 0.2rem;
}
.section {
  width: 5.5rem;
  margin-left: 0.3rem;
}
.ask {
  border-color: var(--amber);
  border-width: 2px;
}
.gauge {
  margin-left: 0.4rem;
  white-space: nowrap;
}
.calibration {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 1px dotted var(--muted);
  padding: 0;
  cursor: pointer;
  white-space: nowrap;
}
.why {
  min-width: 12rem;
}
</style>
