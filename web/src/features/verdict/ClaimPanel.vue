<script setup lang="ts">
import { computed } from 'vue';
import { CLAIM_STATES, claimMeasuredText } from '../../parts/claim-measured.js';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../../model/programme-store.js';

/** Every claim from outside beside what was measured, and what was expected before the day. */
const programme = useProgramme();
const show = useShow();
const claims = computed(() => new Map((programme.view!.bundle.programme.claims ?? []).map((claim) => [claim.id, claim])));
const checks = computed(() =>
  programme
    .view!.findings.claims.map((check) => ({ ...check, stated: claims.value.get(check.claim)! }))
    .filter(({ stated }) => !stated.ownWords),
);
const expected = computed(() => programme.view!.bundle.programme.expected ?? null);
</script>

<template>
  <section v-if="checks.length || expected" aria-label="Claims">
    <h2>Claims</h2>
    <ul>
      <li v-for="check in checks" :key="check.claim">
        <b>{{ check.stated.text }}</b> <span class="state" :class="check.state">{{ CLAIM_STATES[check.state] }}</span>
        <span v-if="check.stated.afterwards" class="muted small"> (added afterwards)</span>
        <p v-if="check.value !== null">measured {{ claimMeasuredText(check, show) }}</p>
        <p class="muted small">{{ check.why }}<template v-if="check.stated.by"> Claimed by {{ check.stated.by }}.</template></p>
      </li>
    </ul>
    <p v-if="expected" class="muted">
      Expected before the day: {{ expected.lowPct }} to {{ expected.highPct }}&nbsp;% ({{ expected.by }}).
    </p>
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
