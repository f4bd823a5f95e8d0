import type { DayEvent, DayHappening } from '@gezeit/contract';
import { checkKey, type DayPull, type DayState, type DayStep, type Happening } from './day-state.js';

/** Kinds of happening that can be taken back; the others are what the world did. */
const UNDOABLE: readonly DayHappening['kind'][] = [
  'checked',
  'pull-amended',
  'swap-started',
  'swap-ended',
  'setup-changed',
  'skipped',
  'inserted',
  'reading',
  'weather',
  'zero',
  'note',
  'files-matched',
  'ended',
];

/** What a pull has been driven with or as can be taken back no more: it would be another pull. */
const SETTLED_BY_PULL: readonly DayHappening['kind'][] = ['swap-started', 'swap-ended', 'setup-changed', 'inserted'];

/** Where the day stands after a list of events; what cannot follow on what came before it changes nothing. */
export function dayState(events: readonly DayEvent[]): DayState {
  const takenBack = new Set(events.flatMap(({ what }) => (what.kind === 'taken-back' ? [what.event] : [])));
  const state: DayState = {
    day: null,
    begunMs: null,
    endedMs: null,
    endReason: null,
    planned: [],
    steps: [],
    skipped: new Set(),
    remaining: [],
    fitted: null,
    made: [],
    swapping: null,
    swaps: [],
    pulls: [],
    running: null,
    amendments: [],
    stop: null,
    away: null,
    absences: [],
    checks: new Map(),
    typedReadings: new Map(),
    weather: null,
    zeros: [],
    notes: [],
    said: [],
    files: [],
    matches: new Map(),
    undoable: [],
  };
  for (const event of events) {
    if (takenBack.has(event.id)) continue;
    follow(state, event);
    if (UNDOABLE.includes(event.what.kind)) state.undoable.push(event);
    if (event.what.kind === 'pull-started') state.undoable = state.undoable.filter(({ what }) => !SETTLED_BY_PULL.includes(what.kind));
  }
  state.remaining = remainingOf(state);
  return state;
}

/** Which parts of a pull an amendment names, as a pull lists them. */
export function amendedParts(change: AmendedPull): string[] {
  const { weather, setup, pullKind, aborted, typed } = change;
  const parts = { weather, setup, kind: pullKind, aborted, figures: typed };
  return Object.entries(parts).flatMap(([part, value]) => (value === undefined ? [] : [part]));
}

type AmendedPull = Pick<Happening<'pull-amended'>, 'weather' | 'setup' | 'pullKind' | 'aborted' | 'typed'>;

function follow(state: DayState, { id, at, by, what }: DayEvent): void {
  const atMs = Date.parse(at);
  switch (what.kind) {
    case 'begun':
      if (state.day !== null) return;
      state.day = what.day;
      state.begunMs = atMs;
      state.planned = what.pulls;
      state.fitted = what.fitted ?? what.pulls[0]?.setup ?? null;
      state.steps = what.pulls.map(({ setup, kind, restMin }, place) => ({
        place,
        setup,
        kind,
        restMin: restMin ?? null,
        inserted: false,
      }));
      return;
    case 'checked': {
      const key = checkKey(what.list, what.of);
      const items = state.checks.get(key) ?? new Map<string, { done: boolean; reason: string | null }>();
      for (const item of what.items) items.set(item, { done: what.done, reason: what.reason ?? null });
      state.checks.set(key, items);
      return;
    }
    case 'pull-started':
      return startPull(state, what, atMs);
    case 'pull-ended':
      if (state.running?.id !== what.pull) return;
      state.running.endedMs = atMs;
      state.running.aborted = what.aborted;
      state.running = null;
      return;
    case 'pull-amended': {
      const pull = state.pulls.find((entry) => entry.id === what.pull);
      if (!pull) return;
      pull.kind = what.pullKind ?? pull.kind;
      pull.setup = what.setup ?? pull.setup;
      pull.aborted = what.aborted ?? pull.aborted;
      pull.typed = what.typed ?? pull.typed;
      if (what.weather) pull.begun = { ...pull.begun, weather: what.weather };
      if (what.why) state.amendments.push(...amendedParts(what).map((part) => ({ pull: pull.id, what: part, why: what.why!, by, atMs })));
      // Its step was driven again meanwhile: what counts after all is one more than planned.
      if (!pull.aborted && state.pulls.some((other) => other !== pull && !other.aborted && other.place === pull.place)) pull.place = null;
      return;
    }
    case 'swap-started':
      if (!state.running) state.swapping = { to: what.to, sinceMs: atMs };
      return;
    case 'swap-ended':
      if (!state.swapping) return;
      state.fitted = state.swapping.to;
      state.swaps.push({ to: state.swapping.to, atMs, ecuReset: what.ecuReset });
      state.swapping = null;
      return;
    case 'setup-changed': {
      const before = state.fitted;
      state.fitted = what.setup.id;
      state.made.push(what.setup);
      const open = new Set(remainingOf(state).map(({ place }) => place));
      if (what.restOfDay)
        state.steps = state.steps.map((step) => (open.has(step.place) && step.setup === before ? { ...step, setup: what.setup.id } : step));
      return;
    }
    case 'skipped':
      state.skipped.add(what.place);
      return;
    case 'inserted':
      return insertSteps(state, what);
    case 'reading':
      state.typedReadings.set(what.gate, { value: what.value, atMs });
      return;
    case 'weather':
      state.weather = { value: what.weather, atMs };
      return;
    case 'zero':
      state.zeros.push({ atMs, channels: what.channels });
      return;
    case 'note':
      state.notes.push({ event: id, atMs, by, text: what.text, files: what.files, pull: what.pull ?? null });
      return;
    case 'stop-raised':
      state.stop ??= { criterion: what.criterion, text: what.text, passed: what.passed ?? null, atMs };
      return;
    case 'stop-acknowledged':
      state.stop = null;
      return;
    case 'said':
      state.said.push({ atMs, pull: what.pull, comparisons: what.comparisons });
      return;
    case 'file-taken':
      state.files.push({ ...what, atMs });
      return;
    case 'files-matched':
      state.matches.set(what.device, what);
      return;
    case 'rollers':
      return rollers(state, what, atMs);
    case 'ended':
      state.endedMs = atMs;
      state.endReason = what.reason;
      return;
    case 'taken-back':
  }
}

function startPull(state: DayState, begun: Happening<'pull-started'>, startedMs: number): void {
  if (state.pulls.some(({ id }) => id === begun.pull)) return;
  if (state.running && begun.cause !== 'file') {
    // Two pulls cannot run: the end of the first was missed.
    state.running.endedMs = startedMs;
    state.running = null;
  }
  const { pull: id, setup, pullKind: kind, place } = begun;
  const pull: DayPull = { id, setup, kind, place, startedMs, endedMs: null, aborted: false, begun, typed: null };
  // A missed pull that is added afterwards stands where it was driven.
  const later = state.pulls.findIndex((other) => other.startedMs > startedMs);
  const isPast = later >= 0 || begun.cause === 'file';
  if (isPast) pull.endedMs = startedMs + MISSED_PULL_MS;
  else state.running = pull;
  state.pulls.splice(later >= 0 ? later : state.pulls.length, 0, pull);
}

/** A pull known from its file alone is taken to last so long. */
const MISSED_PULL_MS = 12_000;

function insertSteps(state: DayState, { setup, pullKind, count }: Happening<'inserted'>): void {
  const next = remainingOf(state)[0];
  const at = next ? state.steps.findIndex(({ place }) => place === next.place) : state.steps.length;
  const first = Math.max(-1, ...state.steps.map(({ place }) => place)) + 1;
  const added = Array.from({ length: count }, (_, i): DayStep => ({
    place: first + i,
    setup,
    kind: pullKind,
    restMin: null,
    inserted: true,
  }));
  state.steps.splice(at, 0, ...added);
}

function rollers(state: DayState, { on, other }: Happening<'rollers'>, atMs: number): void {
  if (on === (state.away === null)) return;
  state.away = on ? null : { sinceMs: atMs, other: other ?? null };
  if (on) state.absences.at(-1)!.toMs = atMs;
  else state.absences.push({ fromMs: atMs, toMs: null });
}

function remainingOf({ steps, skipped, pulls }: DayState): DayStep[] {
  const gone = new Set(pulls.filter(({ aborted, place }) => !aborted && place !== null).map(({ place }) => place!));
  return steps.filter(({ place }) => !skipped.has(place) && !gone.has(place));
}
