import { dayEventSchema, dayViewSchema, z, type DayEvent, type DayView } from '@gezeit/contract';
import { dayState } from '@gezeit/core';

/** What this browser keeps of a day: what the server has not taken yet, and how a day that runs was seen last. */
const outboxKey = (id: string) => `gezeit.day.${id}`;
const viewKey = (id: string) => `gezeit.day.view.${id}`;
const keptViewSchema = z.object({ keptAtMs: z.number(), view: dayViewSchema });

/** What was done in this browser, in whichever window, and not yet sent. */
export const keptOutbox = (id: string): DayEvent[] => eventsIn(localStorage.getItem(outboxKey(id)));

/** Keeps what was done until the server has it. False where the browser's store takes no more: then only this window knows of it. */
export function keepEvents(id: string, events: readonly DayEvent[]): boolean {
  const kept = keptOutbox(id);
  const known = new Set(kept.map((event) => event.id));
  return storeOutbox(id, [...kept, ...events.filter((event) => !known.has(event.id))]);
}

/** Keeps events no longer; what else is kept, from another window too, stays. */
export function forgetEvents(id: string, settled: ReadonlySet<string>): void {
  const kept = keptOutbox(id);
  if (kept.some((event) => settled.has(event.id)))
    storeOutbox(
      id,
      kept.filter((event) => !settled.has(event.id)),
    );
}

/** Tells what other windows add to the outbox of a day and take from it; returns how to stop. */
export function followOutbox(id: string, tell: (added: DayEvent[], settled: ReadonlySet<string>) => void): () => void {
  const follow = ({ key, oldValue, newValue }: StorageEvent) => {
    if (key !== outboxKey(id)) return;
    const now = eventsIn(newValue);
    const left = new Set(now.map((event) => event.id));
    tell(now, new Set(eventsIn(oldValue).flatMap((event) => (left.has(event.id) ? [] : event.id))));
  };
  window.addEventListener('storage', follow);
  return () => window.removeEventListener('storage', follow);
}

function eventsIn(text: string | null): DayEvent[] {
  const stored = parsed(text);
  return Array.isArray(stored) ? stored.flatMap((entry) => dayEventSchema.safeParse(entry).data ?? []) : [];
}

function storeOutbox(id: string, events: readonly DayEvent[]): boolean {
  try {
    if (events.length > 0) localStorage.setItem(outboxKey(id), JSON.stringify(events));
    else localStorage.removeItem(outboxKey(id));
    return true;
  } catch {
    return false;
  }
}

/** A day as it was seen last, its clock gone on since; null where none runs. Readings are left out: they are no longer true. */
export function keptDay(id: string): DayView | null {
  const kept = keptViewSchema.safeParse(parsed(localStorage.getItem(viewKey(id))));
  if (!kept.success) return null;
  const { keptAtMs, view } = kept.data;
  const { nowMs, speed } = view.clock;
  return { ...view, clock: { nowMs: nowMs + Math.max(0, Date.now() - keptAtMs) * speed, speed } };
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

function parsed(text: string | null): unknown {
  try {
    return JSON.parse(text ?? 'null');
  } catch {
    return null;
  }
}
