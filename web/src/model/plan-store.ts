import type { Bundle, Plan } from '@gezeit/contract';
import { HEAT_FORECAST, learnHeat, planReport, scheduled, type HeatForecast } from '@gezeit/core';
import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import { useProgramme } from './programme-store.js';

/** The plan as it is being edited: what is shown is never behind the hand; storing follows. */
export const usePlan = defineStore('plan', () => {
  const programme = useProgramme();
  /** The plan as the hand left it, until the server holds the same. */
  const local = shallowRef<Plan | null>(null);
  let changes = 0;
  const stored = computed<Plan>(() => programme.view?.bundle.plan ?? { pulls: [] });
  const plan = computed<Plan>(() => local.value ?? stored.value);
  const bundle = computed<Bundle>(() => ({ ...programme.view!.bundle, plan: plan.value }));
  const report = computed(() => planReport(bundle.value));
  /** Constants that this car's days have taught; null where too little was logged. */
  const learned = computed(() => (programme.view ? learnHeat(programme.view.tide) : null));
  const heat = computed<HeatForecast>(() => ({ ...HEAT_FORECAST, ...(learned.value ?? {}), ...(plan.value.heat ?? {}) }));

  watch(
    () => programme.view?.id,
    () => (local.value = null),
  );

  /** Changes the plan at once, and stores it. */
  function change(what: string, next: (plan: Plan) => Plan): void {
    const value = scheduled(next(plan.value));
    local.value = value;
    changes += 1;
    const own = changes;
    void programme
      .edit('plan', `plan: ${what}`, () => value)
      .finally(() => {
        if (own === changes) local.value = null;
      });
  }

  return { plan, bundle, report, learned, heat, change };
});
