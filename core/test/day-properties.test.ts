import type { Bundle, DayEvent, DayHappening } from '@gezeit/contract';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  dayRefusal,
  dayRefusalError,
  checkedOf,
  dayState,
  defaultGates,
  draftProgramme,
  instruct,
  nextPullId,
  openItems,
  pullStart,
  readyForFirstPull,
  scheduled,
  withConditioning,
  type DayState,
} from '../src/index.js';

// Whatever is pressed, in whatever order: the day stays a day. What may not happen is refused, and what was refused leaves no trace.

const START = Date.parse('2026-03-04T08:00:00Z');
const ORDERS = ['ABBA', 'AABB', 'AB', 'ABCCBA'];
const bundleFor = (order: string): Bundle => {
  const draft = draftProgramme({ title: 'Any day', aspiration: 'turbo', vehicle: null, cell: null });
  return {
    ...draft,
    setups: ['A', 'B', 'C'].map((id, i) => ({ ...draft.setups[Math.min(i, 1)]!, id, reference: i === 0 })),
    plan: scheduled({ pulls: withConditioning([...order]), restMin: 5, swapMin: 20 }),
  };
};

/** What a hand at the keys may do, with a number that chooses among what there is. */
const PRESSES = [
  'pull',
  'end',
  'abort',
  'swap',
  'swap-done',
  'skip',
  'insert',
  'note',
  'reading',
  'tick',
  'stop',
  'acknowledge',
  'change',
  'undo',
  'missed',
  'amend',
  'end-day',
] as const;
/** Pressed more often than the rest, so that days get somewhere. */
const COMMON = ['tick', 'pull', 'pull', 'end', 'end', 'abort', 'swap-done'] as const;
type Press = { press: (typeof PRESSES)[number]; choice: number };
const presses = fc.array(fc.record({ press: fc.oneof(fc.constantFrom(...PRESSES), fc.constantFrom(...COMMON)), choice: fc.nat(11) }), {
  minLength: 30,
  maxLength: 120,
  size: 'max',
});

function happeningOf(bundle: Bundle, state: DayState, { press, choice }: Press, nowMs: number): DayHappening | null {
  const cell = { nowMs, readings: [], history: {} };
  const setup = bundle.setups[choice % 3]!;
  const pull = state.pulls[choice % Math.max(1, state.pulls.length)];
  switch (press) {
    case 'pull':
      return pullStart(state, bundle, cell, instruct(state, defaultGates(bundle), cell, true), null, 'key');
    case 'end':
    case 'abort':
      return { kind: 'pull-ended', pull: state.running?.id ?? 'none', aborted: press === 'abort', cause: 'key' };
    case 'swap':
      return { kind: 'swap-started', to: setup.id };
    case 'swap-done':
      return { kind: 'swap-ended', ecuReset: choice > 5 };
    case 'skip':
      return { kind: 'skipped', place: choice };
    case 'insert':
      return { kind: 'inserted', setup: setup.id, pullKind: choice > 6 ? 'measured' : 'tuning', count: 1 + (choice % 3) };
    case 'note':
      return { kind: 'note', text: `note ${choice}`, files: [] };
    case 'reading':
      return { kind: 'reading', gate: 'coolant', value: choice < 2 ? null : 80 + choice };
    case 'tick': {
      const list = choice % 2 === 0 && state.swapping ? 'afterSwap' : 'beforeDay';
      const items = openItems(bundle, state, list).map(({ id }) => id);
      return { kind: 'checked', list, of: checkedOf(state, list), items, done: true };
    }
    case 'stop':
      return { kind: 'stop-raised', criterion: 'oil', text: 'Oil 141 °C is over the limit of 140 °C' };
    case 'acknowledge':
      return { kind: 'stop-acknowledged' };
    case 'change':
      return { kind: 'setup-changed', setup: { ...setup, id: `D${choice}`, reference: false }, restOfDay: choice > 5 };
    case 'undo': {
      const last = state.undoable.at(-1 - (choice % 2));
      return last ? { kind: 'taken-back', event: last.id } : null;
    }
    case 'missed':
      return pull
        ? { ...pull.begun, pull: nextPullId(bundle, state), place: null, cause: 'file' }
        : { ...pullStart(state, bundle, cell, instruct(state, defaultGates(bundle), cell, true), null, 'file') };
    case 'amend':
      return { kind: 'pull-amended', pull: pull?.id ?? 'none', aborted: choice > 5 };
    case 'end-day':
      return { kind: 'ended', reason: choice > 6 ? 'rain' : null, open: [] };
  }
}

/** Presses key after key; calls back after every one that was taken. */
function play(order: string, list: readonly Press[], after: (bundle: Bundle, events: DayEvent[], before: DayState) => void): DayEvent[] {
  const bundle = bundleFor(order);
  const begun: DayHappening = { kind: 'begun', day: '2026-03-04', pulls: bundle.plan!.pulls, fitted: null };
  const events: DayEvent[] = [{ id: 'event-begun', at: new Date(START).toISOString(), by: 'TS', what: begun }];
  for (const [i, press] of list.entries()) {
    const nowMs = START + (i + 1) * 60_000;
    const before = dayState(events);
    const what = happeningOf(bundle, before, press, nowMs);
    if (what === null) continue;
    // A missed pull was driven in between.
    const atMs = press.press === 'missed' ? nowMs - 90_000 : nowMs;
    const refusal = dayRefusal(bundle, before, what);
    if (refusal) {
      expect(dayRefusalError(refusal)).toMatchObject({ code: refusal.code, nature: 'conflict' });
      continue;
    }
    events.push({ id: `event-${i}`, at: new Date(atMs).toISOString(), by: 'TS', what });
    after(bundle, events, before);
  }
  return events;
}

const RUNS = { numRuns: 100, seed: 20260304 };
const plain = (state: DayState) => ({ ...state, undoable: state.undoable.map(({ id }) => id) });

describe('any day at all', () => {
  it('has one pull under way at most, pulls in the order of the clock, and no step that is both driven and ahead', () => {
    fc.assert(
      fc.property(fc.constantFrom(...ORDERS), presses, (order, list) => {
        play(order, list, (_, events) => {
          const state = dayState(events);
          const open = state.pulls.filter(({ endedMs }) => endedMs === null);
          expect(open.length).toBeLessThanOrEqual(1);
          expect(state.running).toBe(open[0] ?? null);
          expect(new Set(state.pulls.map(({ id }) => id)).size).toBe(state.pulls.length);
          const starts = state.pulls.map(({ startedMs }) => startedMs);
          expect(starts).toEqual([...starts].sort((a, b) => a - b));
          expect(new Set(state.steps.map(({ place }) => place)).size).toBe(state.steps.length);
          const driven = state.pulls.filter(({ aborted }) => !aborted).map(({ place }) => place);
          expect(state.remaining.filter(({ place }) => driven.includes(place) || state.skipped.has(place))).toEqual([]);
          // No two pulls that count stand for the same step.
          const places = driven.filter((place) => place !== null);
          expect(new Set(places).size).toBe(places.length);
        });
      }),
      RUNS,
    );
  });

  it('says one thing to do that fits how it stands, whatever was pressed', () => {
    fc.assert(
      fc.property(fc.constantFrom(...ORDERS), presses, (order, list) => {
        play(order, list, (bundle, events) => {
          const state = dayState(events);
          const nowMs = Date.parse(events.at(-1)!.at) + 30_000;
          const checked = readyForFirstPull(bundle, state);
          const { kind, step } = instruct(state, defaultGates(bundle), { nowMs, readings: [], history: {} }, checked);
          if (state.endedMs !== null) expect(kind).toBe('ended');
          else if (state.stop) expect(kind).toBe('stop');
          else if (state.running) expect(kind).toBe('driving');
          else if (state.swapping) expect(kind).toBe('swapping');
          else if (!checked) expect(kind).toBe('check');
          else if (!step) expect(kind).toBe('finish');
          else expect(kind).toBe(step.setup === state.fitted ? (kind === 'pull' ? 'pull' : 'wait') : 'swap');
          // Without the safety items nobody is told to drive.
          if (!checked) expect(['pull', 'wait', 'swap']).not.toContain(kind);
        });
      }),
      RUNS,
    );
  });

  it('is as if it had never happened where something is taken back', () => {
    fc.assert(
      fc.property(fc.constantFrom(...ORDERS), presses, (order, list) => {
        play(order, list, (_, events) => {
          const { what } = events.at(-1)!;
          if (what.kind !== 'taken-back') return;
          const without = events.slice(0, -1).filter(({ id }) => id !== what.event);
          expect(plain(dayState(events))).toEqual(plain(dayState(without)));
        });
      }),
      RUNS,
    );
  });

  it('is the same after it was written down and read again', () => {
    fc.assert(
      fc.property(fc.constantFrom(...ORDERS), presses, (order, list) => {
        const events = play(order, list, () => {});
        const again = JSON.parse(JSON.stringify(events)) as DayEvent[];
        expect(plain(dayState(again))).toEqual(plain(dayState(events)));
      }),
      RUNS,
    );
  });
});
