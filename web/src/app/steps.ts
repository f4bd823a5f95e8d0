import type { Component } from 'vue';
import type { StepName } from '../model/step-names.js';

/** The view of each step, fetched when it is first opened. */
export const STEP_VIEWS: Record<StepName, () => Promise<Component>> = {
  question: () => import('../features/question/QuestionView.vue'),
  bench: () => import('../features/bench/BenchView.vue'),
  plan: () => import('../features/plan/PlanView.vue'),
  day: () => import('../features/day/DayView.vue'),
  logs: () => import('../features/logs/LogsView.vue'),
  verdict: () => import('../features/verdict/VerdictView.vue'),
  sheet: () => import('../features/sheet/SheetView.vue'),
};
