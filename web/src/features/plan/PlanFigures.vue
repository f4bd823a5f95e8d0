<script setup lang="ts">
import { enoughText, lengthText, resolutionText } from '@gezeit/core';
import { computed } from 'vue';
import SetupMark from '../../shared/ui/SetupMark.vue';
import Term from '../../shared/ui/Term.vue';
import { useProgramme } from '../../model/programme-store.js';
import { usePlan } from '../../model/plan-store.js';

/** What this order will be able to recognise, how long it takes, and what is wrong with it. */
const programme = useProgramme();
const plan = usePlan();
const smallest = computed(() => programme.view!.bundle.programme.smallestGainPct);
const mark = (id: string) => programme.setupById.get(id);
const worst = computed(() => Math.max(0, ...plan.report.comparisons.map(({ smallestResolvablePct }) => smallestResolvablePct)));
const measured = computed(() => plan.plan.pulls.filter(({ kind }) => kind === 'measured').length);
</script>

<template>
  <section aria-label="What this plan can recognise" aria-live="polite">
    <p class="lead">
      <template v-if="plan.report.comparisons.length">
        This day of {{ lengthText(plan.report.lengthMin) }} recognises a gain of <b class="figures">{{ resolutionText(worst) }}</b> on four
        days of five: <span :class="worst <= smallest ? 'enough' : 'blind'">{{ enoughText(worst, smallest) }}</span>.
      </template>
      <template v-else>Nothing can be told from this plan yet: it needs measured pulls of the reference and of another setup.</template>
    </p>
    <div v-if="plan.report.comparisons.length" class="scroll">
      <table class="dense">
        <thead>
          <tr>
            <th>Comparison</th>
            <th class="number"><Term what="A true gain of this size is recognised on four days of five.">Recognises, %</Term></th>
            <th class="number">
              <Term what="The smallest limit for which “no difference that matters” comes out on four days of five."
                >Shows no difference from, %</Term
              >
            </th>
            <th class="number"><Term what="Expected half width of the 95 % interval.">Half width, %</Term></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="entry in plan.report.comparisons" :key="entry.candidate + entry.reference">
            <td>
              <SetupMark
                v-if="mark(entry.candidate)"
                :letter="entry.candidate"
                :colour="mark(entry.candidate)!.colour"
                :dash="mark(entry.candidate)!.dash"
                :name="mark(entry.candidate)!.setup.name"
              />
              <span class="muted"> against {{ entry.reference }}</span>
            </td>
            <td class="number">
              <b>{{ entry.smallestResolvablePct.toFixed(2) }}</b>
            </td>
            <td class="number">{{ entry.smallestNoDifferencePct.toFixed(2) }}</td>
            <td class="number">{{ entry.halfWidthPct.toFixed(2) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="muted small">
      {{ plan.plan.pulls.length }} pulls, {{ measured }} of them measured. Smallest that matters: {{ smallest }}&nbsp;%.
    </p>
    <ul v-if="plan.report.warnings.length" class="warnings" aria-label="What is wrong with the plan">
      <li v-for="warning in plan.report.warnings" :key="warning.code + warning.detail">{{ warning.detail }}</li>
    </ul>
    <p v-else-if="plan.plan.pulls.length" class="enough small">Nothing is wrong with this order.</p>
  </section>
</template>

<style scoped>
.lead {
  font-size: 1.3rem;
  line-height: 1.3;
  margin-bottom: 0.5rem;
}
.enough {
  color: var(--green);
}
.blind {
  color: var(--brick);
}
.warnings {
  padding-left: 1.1rem;
  margin-top: 0.4rem;
}
.warnings li::marker {
  content: '! ';
  font-weight: 700;
}
</style>
