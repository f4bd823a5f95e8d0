import { dayEventSchema, dayViewSchema, z, type DayEvent, type DayView } from '@gezeit/contract';
import { dayState } from '@gezeit/core';

/** What this browser keeps of a day: what the server has not taken yet, and how a day that runs was seen last. */
const outboxKey = (id: string) => `gezeit.day.${id}`;
const viewKey = (id: string) => `gezeit.day.view.${id}`;
const keptViewSchema = z.object({ keptAtMs: z.number(), view: dayViewSchema });

/** What was done and not yet sent. */
export function keptOutbox(id: string): DayEvent[] {
  const stored = read(outboxKey(id));
  return Array.isArray(stored) ? stored.flatMap((entry) => dayEventSchema.safeParse(entry).data ?? []) : [];
}

export function keepOutboxOf(id: string, events: readonly DayEvent[]): void {
  if (events.length > 0) localStorage.setItem(outboxKey(id), JSON.stringify(events));
  else localStorage.removeItem(outboxKey(id));
}

/** A day as it was seen last, its clock gone on since; null where none runs. Readings are left out: they are no longer true. */
export function keptDay(id: string): DayView | null {
  const parsed = keptViewSchema.safeParse(read(viewKey(id)));
  if (!parsed.success) return null;
  const { keptAtMs, view } = parsed.data;
  const { nowMs, speed } = view.clock;
  return { ...view, clock: { nowMs: nowMs + (Date.now() - keptAtMs) * speed, speed } };
}

export function keepDay(id: string, view: DayView): void {
  const { day, endedMs } = dayState(view.events);
  if (day === null || endedMs !== null) return localStorage.removeItem(viewKey(id));
  const kept: z.infer<typeof keptViewSchema> = {
    keptAtMs: Date.now(),
    view: { ...view, readings: [], history: {}, trace: { pull: null, engineSpeedRpm: [], channels: {} } },
  };
  try {
    localStorage.setItem(viewKey(id), JSON.stringify(kept));
  } catch {
    // The browser's store is full: the day itself is on the server, and what is unsent matters more.
    localStorage.removeItem(viewKey(id));
  }
}

function read(key: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null');
  } catch {
    return null;
  }
}
