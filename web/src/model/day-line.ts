import {
  dayMessageSchema,
  type Bundle,
  type DayEvent,
  type DayHappening,
  type DayView,
  type LiveHistory,
  type LiveReading,
  type LiveTrace,
  type RigState,
} from '@gezeit/contract';
import { dayRefusal, dayRefusalError, dayState } from '@gezeit/core';
import { nanoid } from 'nanoid';
import { computed, ref, shallowRef } from 'vue';
import { api, ApiFailure } from '../shared/api/client.js';
import { seat } from '../shared/api/seat.js';
import { usePerson } from '../shared/person-store.js';
import { followOutbox, forgetEvents, keepDay, keepEvents, keptDay, keptOutbox } from './kept-day.js';

const TICK_MS = 250;
const RETRY_MS = 2000;
const REREAD_AFTER_MS = 400;
const HISTORY_KEEP_MS = 45 * 60_000;

/**
 * What a line needs to know of the programme: what may happen is decided by its setups and plan. It is read again when the day has grown, and asked for
 * where something else has happened: what was changed elsewhere is no event of the day.
 */
export interface DayLineOptions {
  bundle: () => Bundle;
  reread: () => Promise<void>;
  askWhetherChanged: () => void;
}

/**
 * The line between this window and a day: what the server holds, what it has not taken yet, and what the devices show. Everything that is done
 * is shown at once and kept in the browser until the server has it, so that a lost connection or a reload loses nothing.
 */
export function useDayLine({ bundle, reread, askWhetherChanged }: DayLineOptions) {
  const person = usePerson();
  const view = shallowRef<DayView | null>(null);
  const outbox = shallowRef<DayEvent[]>([]);
  const connected = ref(false);
  const failure = shallowRef<ApiFailure | null>(null);
  const readings = shallowRef<LiveReading[]>([]);
  const history = shallowRef<LiveHistory>({});
  const trace = shallowRef<LiveTrace | null>(null);
  const rig = shallowRef<RigState | null>(null);
  const nowMs = ref(Date.now());
  let clock = { nowMs: Date.now(), speed: 1, at: performance.now() };
  let source: EventSource | null = null;
  let ticking: ReturnType<typeof setInterval> | null = null;
  let sending = false;
  let rereading: ReturnType<typeof setTimeout> | null = null;
  /** Whether the day has grown since it was last read again, and how much is under way that is waited for before it is. */
  let hasGrown = false;
  let growing = 0;
  let openId: string | null = null;
  let stopFollowing = () => {};
  const events = computed<DayEvent[]>(() => {
    const known = new Set(view.value?.events.map(({ id }) => id));
    const all = [...(view.value?.events ?? []), ...outbox.value.filter(({ id }) => !known.has(id))];
    // Another day may have begun while nothing answered: what came before is not of it.
    return all.slice(
      Math.max(
        0,
        all.findLastIndex(({ what }) => what.kind === 'begun'),
      ),
    );
  });
  /** Who acts on the day in the place of this browser; null where it may act itself. */
  const heldElsewhere = computed(() => {
    const holder = view.value?.holder ?? null;
    return holder !== null && holder.seat !== seat ? holder : null;
  });
  function setClock(next: { nowMs: number; speed: number }): void {
    clock = { ...next, at: performance.now() };
    nowMs.value = next.nowMs;
  }

  function open(id: string): void {
    close();
    openId = id;
    outbox.value = keptOutbox(id);
    // A second window follows along even while nothing answers.
    stopFollowing = followOutbox(id, (added, settled) => {
      const known = new Set(outbox.value.map((event) => event.id));
      // What the server has answered another window stays until it is seen here: else it would not have happened for a moment.
      const seen = new Set(view.value?.events.map((event) => event.id));
      const kept = outbox.value.filter((event) => !settled.has(event.id) || !seen.has(event.id));
      outbox.value = [...kept, ...added.filter((event) => !known.has(event.id))];
    });
    // Until the server answers, the day stands as it was seen last.
    const kept = keptDay(id);
    if (kept) {
      view.value = kept;
      setClock(kept.clock);
    }
    source = new EventSource(api.dayLive(id));
    source.onopen = () => {
      connected.value = true;
      void send();
    };
    source.onerror = () => (connected.value = false);
    source.onmessage = ({ data }) => take(dayMessageSchema.parse(JSON.parse(String(data))));
    ticking = setInterval(() => {
      nowMs.value = clock.nowMs + (performance.now() - clock.at) * clock.speed;
      if (outbox.value.length > 0 && performance.now() - lastTry > RETRY_MS) void send();
    }, TICK_MS);
  }
  let lastTry = 0;

  function close(): void {
    source?.close();
    source = null;
    stopFollowing();
    if (ticking) clearInterval(ticking);
    if (rereading) clearTimeout(rereading);
    rereading = null;
    hasGrown = false;
    view.value = null;
    outbox.value = [];
    openId = null;
    connected.value = false;
    failure.value = null;
    readings.value = [];
    history.value = {};
    trace.value = null;
    rig.value = null;
  }

  function take(message: ReturnType<typeof dayMessageSchema.parse>): void {
    connected.value = true;
    if (message.type === 'view') return show(message.view);
    setClock(message.clock);
    if (!isSame(readings.value, message.readings)) readings.value = message.readings;
    rig.value = message.rig;
    if (message.trace) trace.value = message.trace;
    if (Object.values(message.history).some(({ atMs }) => atMs.length > 0))
      history.value = joined(history.value, message.history, message.clock.nowMs);
  }

  /** A day only grows: a view of the same day that knows less was overtaken on the way. */
  function isOvertaken(before: DayView | null, next: DayView): boolean {
    const isSameDay = before !== null && before.events.length > 0 && before.events[0]!.id === next.events[0]?.id;
    return isSameDay && next.events.length < before.events.length;
  }

  function show(next: DayView): void {
    const before = view.value;
    if (isOvertaken(before, next)) return;
    view.value = next;
    keepDay(openId!, next);
    setClock(next.clock);
    readings.value = next.readings;
    history.value = next.history;
    trace.value = next.trace;
    rig.value = next.rig;
    forget(openId!, new Set(next.events.map(({ id }) => id)));
    if (before && before.events.length !== next.events.length) rereadSoon();
    else if (rereading === null) askWhetherChanged();
  }

  /** Pulls, logs and findings follow from what happened: they are read again a moment later, one reading after the other. */
  function rereadSoon(): void {
    hasGrown = true;
    if (rereading) clearTimeout(rereading);
    rereading = setTimeout(() => {
      rereading = null;
      if (growing > 0) return;
      hasGrown = false;
      void grows(reread);
    }, REREAD_AFTER_MS);
  }

  /** Does what makes the day grow step by step: it is read again once, after that. */
  async function grows<T>(work: () => Promise<T>): Promise<T> {
    growing += 1;
    try {
      return await work();
    } finally {
      growing -= 1;
      if (growing === 0 && hasGrown) rereadSoon();
    }
  }

  /** Keeps events of a day no longer: the server has them, or has refused them. */
  function forget(id: string, settled: ReadonlySet<string>): void {
    forgetEvents(id, settled);
    if (id === openId && outbox.value.some((event) => settled.has(event.id)))
      outbox.value = outbox.value.filter((event) => !settled.has(event.id));
  }

  async function send(): Promise<void> {
    const id = openId;
    if (sending || outbox.value.length === 0 || !id) return;
    sending = true;
    lastTry = performance.now();
    try {
      const all = outbox.value;
      // All at once; where something of it is refused, one after the other, so that only that is lost.
      if ((await sendBatch(id, all)) === 'refused' && all.length > 1)
        for (const event of all) if ((await sendBatch(id, [event])) === 'unanswered') break;
    } finally {
      sending = false;
    }
    if (outbox.value.length > 0 && connected.value) void send();
  }

  /** Sends events of a day, which may not be the one that is open when the answer comes. A single one that is refused did not happen. */
  async function sendBatch(id: string, batch: DayEvent[]): Promise<'taken' | 'refused' | 'unanswered'> {
    try {
      const next = await api.dayEvents(id, batch);
      if (id === openId) {
        show(next);
        connected.value = true;
      } else forget(id, new Set(batch.map((event) => event.id)));
      return 'taken';
    } catch (error) {
      const known = ApiFailure.of(error, 'The answer of Gezeit could not be read.', 'Reload the page.');
      // Something went wrong over there: that is no answer, and nothing is lost by asking again.
      if (known.code === 'unreachable' || known.code === 'internal') {
        if (id === openId) connected.value = false;
        return 'unanswered';
      }
      if (batch.length === 1) {
        forget(id, new Set([batch[0]!.id]));
        if (id === openId) failure.value = known;
      }
      return 'refused';
    }
  }

  /** Does something: shown at once, sent, and kept until the server has it. False where it may not happen now. */
  const act = (...happenings: DayHappening[]) => actAt(nowMs.value, ...happenings);

  /** The same for something that happened at another moment. */
  async function actAt(atMs: number, ...happenings: DayHappening[]): Promise<boolean> {
    if (!(await person.ensure())) return false;
    failure.value = null;
    if (heldElsewhere.value) {
      failure.value = new ApiFailure(`${heldElsewhere.value.by} holds this day.`, 'Take it over first.', '', 'held-elsewhere');
      return false;
    }
    const added: DayEvent[] = [];
    for (const what of happenings) {
      const before = dayState([...events.value, ...added]);
      const refusal = dayRefusal(bundle(), what.kind === 'begun' && before.endedMs !== null ? dayState([]) : before, what);
      if (refusal) {
        const { message, nextStep, code } = dayRefusalError(refusal);
        failure.value = new ApiFailure(message, nextStep, '', code);
        return false;
      }
      added.push({ id: nanoid(), at: new Date(Math.round(atMs)).toISOString(), by: person.stamp, what });
    }
    outbox.value = [...outbox.value, ...added];
    const kept = keepEvents(openId!, added);
    await send();
    const happened = failure.value === null;
    if (!kept && outbox.value.some((event) => added.includes(event)))
      failure.value = new ApiFailure(
        'This browser can keep no more, and Gezeit does not answer.',
        'Leave this window open until it does: what was done is here alone.',
      );
    return happened;
  }

  /** Something that is asked of the server alone (devices, rig); its failure is shown. */
  async function ask(request: (id: string) => Promise<DayView>): Promise<boolean> {
    const id = openId;
    if (!id || !(await person.ensure())) return false;
    failure.value = null;
    try {
      const next = await request(id);
      if (id === openId) show(next);
      return true;
    } catch (error) {
      if (id === openId) failure.value = ApiFailure.of(error, 'The answer of Gezeit could not be read.', 'Reload the page.');
      return false;
    }
  }

  return {
    view,
    heldElsewhere,
    outbox,
    connected,
    failure,
    readings,
    history,
    trace,
    rig,
    nowMs,
    events,
    open,
    close,
    act,
    actAt,
    ask,
    grows,
  };
}

/** Whether nothing was read since: what follows from readings is then not worked out again. */
function isSame(before: readonly LiveReading[], next: readonly LiveReading[]): boolean {
  return before.length === next.length && JSON.stringify(before) === JSON.stringify(next);
}

function joined(before: LiveHistory, more: LiveHistory, nowMs: number): LiveHistory {
  const next: LiveHistory = { ...before };
  for (const [key, { atMs, value }] of Object.entries(more)) {
    const own = before[key] ?? { atMs: [], value: [] };
    const last = own.atMs.at(-1) ?? -Infinity;
    const from = atMs.findIndex((at) => at > last);
    if (from < 0) continue;
    const start = own.atMs.findIndex((at) => at > nowMs - HISTORY_KEEP_MS);
    next[key] = {
      atMs: [...own.atMs.slice(Math.max(0, start)), ...atMs.slice(from)],
      value: [...own.value.slice(Math.max(0, start)), ...value.slice(from)],
    };
  }
  return next;
}
