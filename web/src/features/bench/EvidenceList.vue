<script setup lang="ts">
import type { Evidence } from '@gezeit/contract';
import { instrumentById } from '@gezeit/core';
import Button from 'primevue/button';
import { computed } from 'vue';
import { api } from '../../shared/api/client.js';
import { useProgramme } from '../../model/programme-store.js';
import { useBenchInputs } from './bench-inputs-store.js';
import { useBench } from './use-bench.js';
import { dayWords } from '../../shared/day-words.js';

/** Results that were kept, each with its note; one can be laid on its instrument again. */
const programme = useProgramme();
const bench = useBench();
const inputs = useBenchInputs();
const evidence = computed(() => [...programme.view!.evidence].reverse());
const where = ({ setup, section }: Evidence) => [setup && `setup ${setup}`, section].filter(Boolean).join(', ');

const isInstrument = ({ instrument }: Evidence) => instrumentById(instrument) !== null;
async function layOut(entry: Evidence): Promise<void> {
  inputs.set(entry.instrument, JSON.parse(JSON.stringify(entry.inputs)) as Evidence['inputs']);
  await bench.openInstrument(entry.instrument);
}
const remove = (id: string) => programme.changeAloud((programmeId) => api.removeEvidence(programmeId, id));
</script>

<template>
  <section class="evidence" aria-label="Evidence">
    <h2>Kept as evidence</h2>
    <p v-if="evidence.length === 0" class="muted">Nothing yet: every instrument’s result can be kept, with a note.</p>
    <ul>
      <li v-for="entry in evidence" :key="entry.id">
        <div class="head">
          <b>{{ entry.title }}</b>
          <span class="muted small">{{ [where(entry), entry.by, dayWords(entry.at)].filter(Boolean).join(' · ') }}</span>
          <span class="spacer" />
          <Button
            v-if="isInstrument(entry)"
            text
            size="small"
            label="Lay out"
            :aria-label="`Lay out ${entry.title} of ${entry.by}`"
            @click="layOut(entry)"
          />
          <Button text size="small" icon="pi pi-times" :aria-label="`Take ${entry.title} away`" @click="remove(entry.id)" />
        </div>
        <p>{{ entry.sentence }}</p>
        <p v-if="entry.note" class="muted">{{ entry.note }}</p>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.evidence {
  margin-top: 1.2rem;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  border-bottom: 1px solid var(--line);
  padding: 0.25rem 0;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 0.5rem;
}
.spacer {
  flex: 1;
}
</style>
