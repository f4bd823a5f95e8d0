<script setup lang="ts">
import { intermediateSetups, missingReferences, referenceFor, say, stateClouds } from '@gezeit/core';
import type { Setup } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../../model/programme-store.js';

/** What will cloud the verdict, before anything has been run, and the setups that would clear it. */
const programme = useProgramme();
const show = useShow();
const bundle = computed(() => programme.view!.bundle);
const setups = computed(() => bundle.value.setups.filter(({ archived }) => !archived));
const inUse = computed(() => ({ ...bundle.value, setups: setups.value }));
const clouds = computed(() =>
  setups.value
    .filter(({ reference }) => !reference)
    .flatMap((candidate) => {
      const reference = referenceFor(inUse.value, candidate);
      if (!reference) return [];
      const { clouds: confounds, unknown } = stateClouds(reference, candidate);
      const between = intermediateSetups(bundle.value.setups, reference, candidate);
      return [{ candidate, reference, confounds, unknown, between }].filter(
        (entry) => entry.confounds.length > 0 || entry.unknown.length > 0,
      );
    }),
);
const missing = computed(() => missingReferences(bundle.value.setups));

function add(setup: Setup): void {
  void programme.edit('setups', `setup ${setup.id} added: ${setup.name}`, (now) => [...now, setup]);
}
</script>

<template>
  <section aria-label="What will cloud the verdict">
    <h2>What will cloud the verdict</h2>
    <p v-if="clouds.length === 0 && missing.length === 0" class="muted">
      The setups differ in nothing but the part under test, as far as it is written down.
    </p>
    <ul v-for="{ candidate, reference, confounds, unknown, between } in clouds" :key="candidate.id" class="clouds">
      <li v-for="cloud in confounds" :key="cloud.code">
        <b>{{ candidate.id }} against {{ reference.id }}:</b> {{ say(cloud.said, show.words) }}.
        <span v-if="cloud.withholds.length" class="withholds">No verdict on {{ cloud.withholds.join(' and ') }} can be given.</span>
        <span v-else class="muted">It is said beside the verdict.</span>
        <span class="code">{{ cloud.code }}{{ cloud.affects.length ? `, affects ${cloud.affects.join(', ')}` : '' }}</span>
        <span v-if="cloud.code === 'several-parts-changed'" class="offers">
          <Button
            v-for="setup in between"
            :key="setup.name"
            size="small"
            outlined
            icon="pi pi-plus"
            :label="setup.name"
            @click="add(setup)"
          />
        </span>
      </li>
      <li v-if="unknown.length" class="muted">
        <b>{{ candidate.id }} against {{ reference.id }}:</b> said for one of them only: {{ unknown.join(', ') }}. What is not said cannot
        be told apart.
      </li>
    </ul>
    <ul v-if="missing.length" class="clouds">
      <li v-for="setup in missing" :key="setup.name">
        No reference stands in the state of every candidate: add it, or the state is compared too.
        <span class="offers"><Button size="small" outlined icon="pi pi-plus" :label="setup.name" @click="add(setup)" /></span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.clouds {
  padding-left: 1.1rem;
  margin-top: 0.3rem;
}
.withholds {
  color: var(--brick);
  font-weight: 600;
}
.code {
  font: inherit;
  font-size: 13px;
  color: var(--muted);
}
.offers {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 0.4rem;
  margin-left: 0.4rem;
}
</style>
