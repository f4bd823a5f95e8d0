<script setup lang="ts">
import type { Comparison } from '@gezeit/contract';
import { computed } from 'vue';
import Term from '../../shared/ui/Term.vue';
import { useProgramme } from '../../model/programme-store.js';
import AssumptionTable from './AssumptionTable.vue';

/** How the judgement weighed the day: noise, story of the engine control, bad pulls; and every assumption behind it. */
const props = defineProps<{ comparison: Comparison }>();
const programme = useProgramme();
const weights = computed(() => props.comparison.weights);
const relearning = computed(() => (weights.value ? 1 - weights.value.story.none : 0));
const suspects = computed(() =>
  Object.entries(weights.value?.badPull ?? {})
    .filter(([, chance]) => chance >= 0.2)
    .sort(([, a], [, b]) => b - a),
);
const worst = computed(() => Object.entries(weights.value?.badPull ?? {}).sort(([, a], [, b]) => b - a)[0]);
const share = (value: number) => `${Math.round(100 * value)} %`;
</script>

<template>
  <section v-if="weights">
    <h2>How the day was weighed</h2>
    <dl class="figures">
      <dt><Term what="Standard deviation of one pull against the next, as this day itself suggests it.">Noise of the day</Term></dt>
      <dd>{{ weights.noisePct.toFixed(2) }}&nbsp;% a pull</dd>
      <dt>
        <Term what="How likely it is that fuel and spark adaptations were moving: since the start of the day, or since each swap."
          >Engine control re-learning</Term
        >
      </dt>
      <dd>
        {{ share(relearning) }}
        <span class="muted">(since the start {{ share(weights.story.day) }}, since each swap {{ share(weights.story.swap) }})</span>
      </dd>
      <dt>
        <Term
          what="The chance that a pull is off by some per cent for a reason of its own. It is averaged over, so a bad pull is weighed down, not deleted."
          >A bad pull</Term
        >
      </dt>
      <dd v-if="suspects.length">
        <span v-for="[id, chance] in suspects" :key="id"
          >{{ id }}: {{ share(chance)
          }}{{ chance >= 0.5 ? ', already weighed down: do not delete it' : ', one more pull of its setup would tell' }}.
        </span>
      </dd>
      <dd v-else-if="worst">none likely <span class="muted">(at most {{ share(worst[1]) }}, {{ worst[0] }})</span></dd>
    </dl>
    <p v-if="relearning >= 0.8" class="small">
      <b>The engine control was re-learning.</b> Conditioning pulls after each swap would have settled it.
    </p>
    <details>
      <summary>{{ programme.view!.assumptions.length }} assumptions and thresholds behind it</summary>
      <AssumptionTable :comparison="comparison" />
    </details>
  </section>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0.2rem 0.9rem;
  margin: 0.2rem 0 0.4rem;
}
dt {
  color: var(--muted);
}
summary {
  cursor: pointer;
}
</style>
