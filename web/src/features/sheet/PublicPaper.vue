<script setup lang="ts">
import type { FixedEntry, SheetSource } from '@gezeit/contract';
import { publicVersionOf, withWords } from '@gezeit/core';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';

/** The short version for readers outside the house: what may be said, why the part works, and what was not measured. */
const props = defineProps<{ source: SheetSource; candidate: string; fixed: FixedEntry | null }>();
const show = useShow();
const findings = computed(() => withWords(props.source.findings, show.value.words));
const version = computed(() => {
  const comparison = findings.value.comparisons.find((entry) => entry.candidate === props.candidate)!;
  return publicVersionOf({ ...props.source, findings: findings.value }, comparison, show.value.words);
});
</script>

<template>
  <article class="paper figures" aria-label="Public short version">
    <p class="kind">{{ version.car }}</p>
    <h1>{{ version.title }}</h1>
    <p v-if="!fixed" class="open"><b>Not fixed: not for publication.</b></p>
    <p v-else-if="fixed.changed.length > 0" class="open"><b>Out of date: not for publication.</b></p>
    <section>
      <h2>What it does</h2>
      <ul v-if="version.says.length > 0">
        <li v-for="text in version.says" :key="text" class="says">{{ text }}</li>
      </ul>
      <p v-else>Nothing was measured of it that may be said.</p>
      <ul v-if="version.ownWords.length > 0">
        <li v-for="entry in version.ownWords" :key="entry.text">
          <b v-if="entry.state !== 'supported'" class="beyond">Not shown by the measurement</b> {{ entry.text }}
        </li>
      </ul>
    </section>
    <section v-if="version.why.length > 0">
      <h2>Why</h2>
      <ul>
        <li v-for="text in version.why" :key="text">{{ text }}</li>
      </ul>
    </section>
    <section>
      <h2>How it was measured</h2>
      <p>{{ version.how }}</p>
    </section>
    <section>
      <h2>What was not measured</h2>
      <ul>
        <li v-for="text in version.notMeasured" :key="text">{{ text }}</li>
      </ul>
      <p>{{ version.law }}</p>
    </section>
  </article>
</template>

<style scoped src="./paper.css"></style>
<style scoped>
.paper {
  font-size: 15px;
  line-height: 1.5;
}
.kind {
  color: #444;
}
h1 {
  font-size: 1.6rem;
  margin: 0 0 0.6rem;
}
h2 {
  font-size: 1.05rem;
  margin: 1.2rem 0 0.2rem;
}
ul {
  margin: 0;
  padding-left: 1.1rem;
}
li {
  break-inside: avoid;
}
p {
  margin: 0.15rem 0;
}
.says {
  font-size: 1.15rem;
  font-weight: 650;
}
.open {
  display: inline-block;
  border: 2px solid #111;
  padding: 0.2rem 0.6rem;
}
</style>
