<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import SetupMark from '../../shared/ui/SetupMark.vue';
import { useProgramme } from '../../model/programme-store.js';
import type { PathColumn } from './path-geometry.js';
import SectionForm from './SectionForm.vue';
import { SECTION_WORDS } from './section-words.js';
import { useBench } from './use-bench.js';
import { usePathEdit } from './use-path-edit.js';

/** One section in both setups: geometry, what was found, what it is there for, and where its loss comes from. */
defineProps<{ column: PathColumn }>();
const programme = useProgramme();
const bench = useBench();
const { removeSection, copySection } = usePathEdit();
const sides = computed(() =>
  (['reference', 'candidate'] as const).flatMap((which) => {
    const setup = bench[which].value;
    const style = setup && programme.setupById.get(setup.id);
    return setup && style ? [{ which, setup, style }] : [];
  }),
);
</script>

<template>
  <div class="panel">
    <h2>
      {{ column.name }} <span v-if="column.name !== SECTION_WORDS[column.kind]" class="muted">({{ SECTION_WORDS[column.kind] }})</span>
    </h2>
    <div class="sides">
      <div v-for="{ which, setup, style } in sides" :key="which" class="side">
        <div class="head">
          <SetupMark :letter="setup.id" :colour="style.colour" :dash="style.dash" :name="setup.name" />
          <Button
            v-if="column[which]"
            text
            size="small"
            icon="pi pi-trash"
            :label="`Remove from ${setup.id}`"
            @click="removeSection(setup.id, column[which]!)"
          />
        </div>
        <SectionForm v-if="column[which]" :setup="setup" :section="column[which]!" />
        <div v-else class="none">
          <p class="muted">{{ setup.id }} has no such section.</p>
          <Button
            size="small"
            outlined
            :label="`Copy it to ${setup.id}`"
            @click="copySection((column.reference ?? column.candidate)!, setup.id)"
          />
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1.6rem;
}
.side {
  min-width: 0;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  border-bottom: 1px solid var(--line);
  min-height: 2.2rem;
}
.none {
  padding-top: 0.4rem;
  display: grid;
  gap: 0.4rem;
  justify-items: start;
}
@media (max-width: 700px) {
  .sides {
    grid-template-columns: 1fr;
  }
}
</style>
