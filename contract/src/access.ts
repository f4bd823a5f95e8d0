import { z } from './zod.js';

/** How a window came in: from the machine itself, or over the shop's network by an access key. */
export const accessSchema = z.object({
  from: z.enum(['machine', 'network']),
  /** Whether what is sent can be read along by others on that network. */
  plain: z.boolean(),
  readOnly: z.boolean(),
  /** What the key was called when it was made; null on the machine itself. */
  key: z.string().nullable(),
  /** When it has to be shown again, ISO 8601; null on the machine itself. */
  until: z.string().nullable(),
});
export type Access = z.infer<typeof accessSchema>;

/** Who acts on a day under way: one browser, on the machine or over the network. */
export const holderSchema = z.object({
  seat: z.string(),
  by: z.string(),
  from: accessSchema.shape.from,
  /** Since when, on the day's clock, ms. */
  sinceMs: z.number(),
  /** Who held it before, where it was taken over. */
  before: z.string().nullable(),
});
export type Holder = z.infer<typeof holderSchema>;
