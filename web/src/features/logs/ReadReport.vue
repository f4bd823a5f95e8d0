<script setup lang="ts">
import type { LogView, PullDetail } from '@gezeit/contract';
import { computed } from 'vue';

/** What was taken for what in one file. */
const props = defineProps<{ log: LogView; detail?: PullDetail }>();

const ALIGNED = {
  first: 'The clock of this log is the pull’s clock.',
  'engine-speed': 'aligned on engine speed',
  'roller-speed': 'aligned on roller speed',
  'same-clock': 'has no speed: assumed to run on the same clock',
  'same-start': 'has no speed: assumed to have been started together with the first log',
  curve: 'A curve over engine speed: needs no alignment.',
} as Record<string, string>;
const alignment = computed(() => {
  const entry = props.detail?.alignments.find(({ file }) => file === props.log.file);
  if (!entry) return null;
  const words = ALIGNED[entry.how] ?? entry.how;
  if (entry.how === 'first' || entry.how === 'curve') return words;
  const residual = entry.residualS === null ? '' : ` (within ${(1000 * entry.residualS).toFixed(0)} ms)`;
  const way = entry.offsetS < 0 ? 'behind' : 'ahead of';
  return `Its clock runs ${Math.abs(entry.offsetS).toFixed(2)} s ${way} the first log’s; ${words}${residual}.`;
});
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
    <p v-if="alignment" class="small">{{ alignment }}</p>
    <p v-for="note in log.report.notes" :key="note" class="small">{{ note }}</p>
    <div class="scroll" tabindex="0" role="region" aria-label="Columns of the file">
      <table class="dense small">
        <thead>
          <tr>
            <th>Column</th>
            <th>Taken for</th>
            <th>Unit</th>
            <th>Note</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(column, index) in log.report.columns" :key="index">
            <td>{{ column.name }}</td>
            <td :class="{ muted: !column.takenFor }">{{ column.takenFor ?? 'not recognised' }}</td>
            <td>{{ column.unit ?? '' }}</td>
            <td class="muted">{{ column.note ?? '' }}</td>
          </tr>
        </tbody>
      </table>
    </div>
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
.scroll {
  max-height: 13rem;
  overflow: auto;
  margin: 0.2rem 0 0.4rem;
}
code {
  overflow-wrap: anywhere;
}
</style>
