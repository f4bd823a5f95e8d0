import { z } from './zod.js';

/** One stretch of the tide strip's water line: start-of-pull temperature above ambient, or what stands in for it. */
export const tideStretchSchema = z.object({
  kind: z.enum(['logged', 'fitted']),
  /** Milliseconds since 1970, and kelvin above ambient. */
  atMs: z.array(z.number()),
  valueK: z.array(z.number()),
});
export const tidePullSchema = z.object({
  id: z.string(),
  setup: z.string(),
  kind: z.string(),
  status: z.enum(['used', 'excluded']),
  startMs: z.number(),
  endMs: z.number(),
  startK: z.number().nullable(),
  endK: z.number().nullable(),
});
export const tideSchema = z.object({
  /** What is drawn: logged temperatures (of the coolant where that of the intake air is missing), pulls and pauses alone, a forecast, or a day as it runs. */
  source: z.enum(['intakeAir', 'coolant', 'pulls', 'forecast', 'live', 'logs']),
  pulls: z.array(tidePullSchema),
  stretches: z.array(tideStretchSchema),
});
export type Tide = z.infer<typeof tideSchema>;
