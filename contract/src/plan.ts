import { z } from './zod.js';

export const PLAN_WARNINGS = [
  'order-confounded',
  'single-pull',
  'no-conditioning',
  'unequal-conditioning',
  'combination-missing',
  'unequal-rests',
  'swap-without-way-back',
  'not-planned',
  'gate-shifts',
] as const;

/** What a plan will be able to recognise, as `gezeit plan` prints it. */
export const planReportSchema = z.object({
  format: z.literal('gezeit-plan'),
  version: z.literal(1),
  comparisons: z.array(
    z.object({
      reference: z.string(),
      candidate: z.string(),
      halfWidthPct: z.number(),
      smallestResolvablePct: z.number(),
      smallestNoDifferencePct: z.number(),
    }),
  ),
  lengthMin: z.number(),
  warnings: z.array(z.object({ code: z.enum(PLAN_WARNINGS), detail: z.string() })),
});
export type PlanReport = z.infer<typeof planReportSchema>;
