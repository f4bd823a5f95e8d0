<script setup lang="ts">
import type { PlanSwap } from '@gezeit/contract';
import { PLAN_TIMES, resolutionText, swapMinutes, withoutWayBack } from '@gezeit/core';
import { computed, ref } from 'vue';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import { useProgramme } from '../../model/programme-store.js';
import { usePlan } from '../../model/plan-store.js';

/** Rests and swaps: how long each takes, and which have no way back. */
const programme = useProgramme();
const plan = usePlan();
const setups = computed(() => programme.view!.bundle.setups.filter(({ archived }) => !archived).map(({ id }) => id));
const pairs = computed(() =>
  setups.value.flatMap((from) =>
    setups.value
      .filter((to) => to !== from)
      .map((to) => ({ from, to, swap: plan.plan.swaps?.find((entry) => entry.from === from && entry.to === to) ?? null })),
  ),
);
const inUse = computed(() =>
  pairs.value.filter(
    ({ from, to, swap }) => swap || plan.plan.pulls.some((pull, i) => i > 0 && plan.plan.pulls[i - 1]!.setup === from && pull.setup === to),
  ),
);
/** Nothing on rollers takes less than half a minute. */
const LEAST_S = 30;
const BACK = { yes: 'can be undone', never: 'cannot be undone', 'not-today': 'too long to return today' };

/** What a swap without a way back has cost: the resolution before and after. */
const price = ref<{ before: number; after: number; from: string } | null>(null);
const worst = () => Math.max(0, ...plan.report.comparisons.map((entry) => entry.smallestResolvablePct));
function setBack(from: string, to: string, back: PlanSwap['back']): void {
  const before = worst();
  setSwap(from, to, { back });
  if (back) plan.change(`${from} finished before ${to}`, withoutWayBack);
  price.value = back ? { before, after: worst(), from } : null;
}

function setSwap(from: string, to: string, change: Partial<PlanSwap>): void {
  plan.change(`swap ${from} → ${to}`, (now) => {
    const others = (now.swaps ?? []).filter((swap) => swap.from !== from || swap.to !== to);
    const own = { ...(now.swaps ?? []).find((swap) => swap.from === from && swap.to === to), from, to, ...change };
    return { ...now, swaps: own.minutes == null && own.back == null ? others : [...others, own] };
  });
}
const setTime = (key: 'restMin' | 'swapMin', seconds: number | null) =>
  seconds !== null && plan.change(key === 'restMin' ? 'rest' : 'swap time', (now) => ({ ...now, [key]: seconds / 60 }));
</script>

<template>
  <section aria-label="Rests and swaps">
    <h2>Rests and swaps</h2>
    <FieldRow label="Pull to pull" why="From one pull to the next of the same setup: long enough for the gates, the same for every setup.">
      <NumberInput
        :model-value="(plan.plan.restMin ?? PLAN_TIMES.restMin) * 60"
        unit="min"
        label="From pull to pull"
        :least="LEAST_S"
        width="4rem"
        @commit="setTime('restMin', $event)"
      />
    </FieldRow>
    <FieldRow label="A swap" why="From the last pull of one setup to the first of the next: fit, check, warm again.">
      <NumberInput
        :model-value="(plan.plan.swapMin ?? PLAN_TIMES.swapMin) * 60"
        unit="min"
        label="A swap takes"
        :least="LEAST_S"
        width="4rem"
        @commit="setTime('swapMin', $event)"
      />
    </FieldRow>
    <FieldRow
      v-for="{ from, to, swap } in inUse"
      :key="from + to"
      :label="`${from} → ${to}`"
      why="A swap of its own time; one that cannot be undone or is too long to return today is never gone back over: more reference pulls before it are the price."
    >
      <NumberInput
        :model-value="swapMinutes(plan.plan, from, to) * 60"
        unit="min"
        :label="`Swap ${from} to ${to}`"
        :least="LEAST_S"
        width="4rem"
        @commit="setSwap(from, to, { minutes: $event === null ? null : $event / 60 })"
      />
      <ChoiceInput
        :model-value="swap?.back ?? 'yes'"
        :choices="BACK"
        :label="`Way back from ${to} to ${from}`"
        @update:model-value="setBack(from, to, $event === 'yes' ? null : ($event as PlanSwap['back']))"
      />
    </FieldRow>
    <p v-if="price" role="status" class="price">
      Every pull of {{ price.from }} now comes before the swap: the day recognises {{ resolutionText(price.after) }} instead of
      {{ resolutionText(price.before) }}. More reference pulls before it buy some of it back. Before the swap, make sure that
      {{ price.from }} is finished: nothing of it can be run again today.
    </p>
  </section>
</template>

<style scoped>
.price {
  border-left: 3px solid var(--ink);
  padding-left: 0.7rem;
  margin-top: 0.4rem;
}
</style>
