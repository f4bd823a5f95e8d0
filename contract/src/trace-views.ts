import { z } from './zod.js';

const name = z.string().trim().min(1).max(80);

/** A formula of channels, by the name under which it is drawn. */
export const traceFormulaSchema = z.object({ name, text: z.string().trim().min(1).max(300) });
export type TraceFormula = z.infer<typeof traceFormulaSchema>;

export const TRACE_AXES = ['time', 'engineSpeed', 'channel'] as const;

/** What is looked at on the traces: kept by name with a programme, and no part of what is judged. */
export const traceViewSchema = z.looseObject({
  name,
  /** Pulls beside the one that is selected. */
  pulls: z.array(z.string().max(100)).max(40),
  channels: z.array(z.string().max(400)).max(40),
  formulas: z.array(traceFormulaSchema).max(20),
  axis: z.enum(TRACE_AXES),
  /** Against which channel, where the axis is one. */
  against: z.string().max(400).nullable(),
  /** The pull that is taken from the others; null draws them as they are. */
  less: z.string().max(100).nullable(),
});
export type TraceView = z.infer<typeof traceViewSchema>;
export const traceViewsSchema = z.array(traceViewSchema).max(50);
