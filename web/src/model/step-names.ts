/** The steps of a programme in the order of the work. */
export const STEP_TITLES = {
  question: 'Question',
  bench: 'Bench',
  plan: 'Plan',
  day: 'Day',
  logs: 'Logs',
  verdict: 'Verdict',
  sheet: 'Sheet',
} as const;
export type StepName = keyof typeof STEP_TITLES;
export const STEP_NAMES = Object.keys(STEP_TITLES) as StepName[];
