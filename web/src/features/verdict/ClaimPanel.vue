<script setup lang="ts">
import type { ClaimCheck } from '@gezeit/core';
import { checkClaims, fromSi } from '@gezeit/core';
import { computed } from 'vue';
import { withSign } from '../../shared/units/show.js';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../programme/programme-store.js';

/** Every claim beside what was measured, and what was expected before the day. */
const programme = useProgramme();
const show = useShow();
const checks = computed(() => checkClaims(programme.view!.bundle, programme.view!.findings, programme.curves, programme.view!.evidence));
const expected = computed(() => programme.view!.bundle.programme.expected ?? null);
const WORDS: Record<ClaimCheck['state'], string> = {
  holds: 'holds',
  open: 'not shown',
  contradicted: 'less than claimed',
  'not-checked': 'not checked',
};

function measuredText({ measured }: ClaimCheck): string {
  if (!measured) return '';
  const { power } = show.value.units;
  const [to, unit]: [(value: number) => number, string] =
    measured.unit === 'kW'
      ? [(value) => fromSi(value * 1000, power), power]
      : measured.unit === 'K'
        ? [(value) => show.value.differenceOf(value), show.value.differenceUnit]
        : [(value) => value, measured.unit];
  return `${withSign(to(measured.value), 1)} ${unit} (${withSign(to(measured.low), 1)} to ${withSign(to(measured.high), 1)})`;
}
</script>

<template>
  <section v-if="checks.length || expected" aria-label="Claims">
    <h2>Claims</h2>
    <ul>
      <li v-for="check in checks" :key="check.claim.id">
        <b>{{ check.claim.text }}</b> <span class="state" :class="check.state">{{ WORDS[check.state] }}</span>
        <span v-if="check.claim.afterwards" class="muted small"> (added afterwards)</span>
        <p v-if="check.measured">measured {{ measuredText(check) }}</p>
        <p class="muted small">
          {{ check.why }}<template v-if="check.claim.by"> Claimed by {{ check.claim.by }}.</template>
        </p>
      </li>
    </ul>
    <p v-if="expected" class="muted">Expected before the day: {{ expected.lowPct }} to {{ expected.highPct }} % ({{ expected.by }}).</p>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin-top: 0.2rem;
}
li {
  border-bottom: 1px solid var(--line);
  padding: 0.2rem 0;
}
.state {
  margin-left: 0.3rem;
  padding: 0 0.35rem;
  border: 1px solid currentColor;
  border-radius: 2px;
  font-size: 13px;
}
.holds {
  color: var(--green);
}
.contradicted {
  color: var(--brick);
}
</style>
