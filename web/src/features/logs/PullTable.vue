<script setup lang="ts">
import { FLAG_WORDS, pullReasonWord } from '@gezeit/core';
import { useLocalStorage } from '@vueuse/core';
import Button from 'primevue/button';
import { computed, nextTick, ref, watch } from 'vue';
import { useAmendment } from '../../model/amendment-store.js';
import { useExclusion } from '../../model/exclusion-store.js';
import { useProgramme } from '../../model/programme-store.js';
import { useSelection } from '../../model/use-selection.js';
import SeveralInput from '../../shared/form/SeveralInput.vue';
import { saveTable } from '../../shared/save.js';
import SetupMark from '../../shared/ui/SetupMark.vue';
import Term from '../../shared/ui/Term.vue';
import { useShow } from '../../shared/units/use-show.js';
import { PULL_COLUMNS, pullRows, sorted } from './pull-columns.js';
import { exclusionHistory, pullSays } from './pull-says.js';
import PullFlags from './PullFlags.vue';

/** Every pull with its figures, flags and reasons; a row selects its pull everywhere. Its columns are chosen and sorted. */
const props = defineProps<{ timeZone: string | null }>();
const programme = useProgramme();
const selection = useSelection();
const exclusion = useExclusion();
const amendment = useAmendment();
const show = useShow();

const USUAL = PULL_COLUMNS.filter(({ usual }) => usual).map(({ key }) => key);
const chosen = useLocalStorage<string[]>('gezeit.pullColumns', USUAL, { writeDefaults: false });
const columns = computed(() => PULL_COLUMNS.filter(({ key }) => chosen.value.includes(key)));
const options = computed(() => PULL_COLUMNS.map(({ key, head }) => ({ key, label: head(show.value) })));
/** By which column, and which way; null leaves the order of the day. */
const order = ref<{ key: string; isDown: boolean } | null>(null);
const clock = computed(
  () => new Intl.DateTimeFormat('en-GB', { hour: 'numeric', minute: '2-digit', hourCycle: 'h23', timeZone: props.timeZone ?? undefined }),
);
const history = computed(() => exclusionHistory(programme.view!.exclusions, props.timeZone));
const rows = computed(() => {
  const column = PULL_COLUMNS.find(({ key }) => key === order.value?.key) ?? null;
  const all = pullRows(programme.view!, (ms) => clock.value.format(ms));
  return sorted(all, column, order.value?.isDown ?? false, show.value).map((row) => ({
    row,
    ...row.finding,
    style: programme.setupById.get(row.finding.setup)!,
    says: pullSays(row, history.value.get(row.finding.id) ?? []),
  }));
});
const sortOf = (key: string) => (order.value?.key !== key ? 'none' : order.value.isDown ? 'descending' : 'ascending');
/** Up, down, and back to the order of the day. */
function sortBy(key: string): void {
  const now = sortOf(key);
  order.value = now === 'descending' ? null : { key, isDown: now === 'ascending' };
}

function save(): void {
  const { value: shown } = show;
  void saveTable('pulls.csv', [
    { header: 'pull', values: rows.value.map(({ id }) => id) },
    { header: 'setup', values: rows.value.map(({ setup }) => setup) },
    { header: 'kind', values: rows.value.map(({ row }) => row.pull.kind) },
    { header: 'status', values: rows.value.map(({ status }) => status) },
    ...columns.value.map((column) => ({
      header: column.head(shown),
      values: rows.value.map(({ row }) => (column.key === 'time' ? row.pull.startedAt : column.value(row, shown))),
    })),
    { header: 'reasons', values: rows.value.map(({ reasons }) => reasons.map(pullReasonWord).join('; ')) },
    {
      header: 'flags',
      values: rows.value.map(({ says }) => says.flags.map(({ flag, detail }) => `${FLAG_WORDS[flag]}: ${detail}`).join('; ')),
    },
    { header: 'warnings', values: rows.value.map(({ warnings }) => warnings.join('; ')) },
  ]);
}

watch(selection.pull, async (id) => {
  await nextTick();
  if (id) document.querySelector(`[data-row="${CSS.escape(id)}"]`)?.scrollIntoView({ block: 'nearest' });
});
</script>

<template>
  <div class="over">
    <h2>Pulls</h2>
    <span class="spacer" />
    <Button v-if="order" text size="small" label="In the order of the day" @click="order = null" />
    <SeveralInput
      v-model="chosen"
      :choices="options"
      label="Columns of the table"
      :said="`${columns.length} columns`"
      placeholder="Columns"
    />
    <Button text size="small" label="CSV" aria-label="Save the pulls as CSV" @click="save()" />
  </div>
  <div class="pull-table figures" tabindex="0" role="region" aria-label="Pulls with their figures and flags">
    <table class="dense">
      <thead>
        <tr>
          <th>Pull</th>
          <th>Setup</th>
          <th v-for="column in columns" :key="column.key" :class="{ number: column.isNumber }" :aria-sort="sortOf(column.key)">
            <button type="button" class="sort" @click="sortBy(column.key)">
              {{ column.head(show)
              }}<span aria-hidden="true">{{ { none: '', ascending: ' ↑', descending: ' ↓' }[sortOf(column.key)] }}</span>
            </button>
            <Term v-if="column.what" :what="column.what" class="what">?</Term>
          </th>
          <th>Flags and reasons</th>
          <th><span class="visually-hidden">Leave out or take back</span></th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.id"
          :data-row="row.id"
          :class="{ selected: row.id === selection.pull.value, out: row.status === 'excluded' }"
          @click="selection.pull.value = row.id"
        >
          <td>
            <button type="button" class="pick" :aria-pressed="row.id === selection.pull.value" @click.stop="selection.pull.value = row.id">
              {{ row.id }}
            </button>
          </td>
          <td><SetupMark :letter="row.setup" :colour="row.style.colour" :dash="row.style.dash" /></td>
          <td v-for="column in columns" :key="column.key" :class="{ number: column.isNumber }">{{ column.text(row.row, show) }}</td>
          <td>
            <PullFlags :says="row.says" />
          </td>
          <td class="act">
            <Button text size="small" icon="pi pi-pencil" :aria-label="`Correct pull ${row.id}`" @click.stop="amendment.ask(row.id)" />
            <Button
              v-if="!row.says.kind"
              text
              size="small"
              :icon="row.status === 'used' ? 'pi pi-times' : 'pi pi-replay'"
              :aria-label="row.status === 'used' ? `Leave pull ${row.id} out` : `Take pull ${row.id} back`"
              @click.stop="exclusion.ask(row.id)"
            />
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.over {
  display: flex;
  align-items: center;
  gap: 0.6rem;
}
.spacer {
  flex: 1;
}
.sort {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
  text-align: inherit;
}
.what {
  margin-left: 0.25rem;
}
.pull-table {
  overflow: auto;
  max-height: 34rem;
}
thead th {
  position: sticky;
  top: 0;
  background: var(--ground);
  z-index: 2;
}
tbody tr {
  cursor: pointer;
}
tbody tr:hover {
  background: var(--surface);
}
tr.selected {
  background: var(--green-soft);
}
tr.selected :deep(.muted) {
  color: var(--ink);
}
tr.out td.number {
  color: var(--muted);
}
.pick {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
}
.act {
  padding: 0 !important;
  text-align: right;
}
.act :deep(button) {
  padding: 0 0.3rem;
  height: 1.6rem;
}
</style>
