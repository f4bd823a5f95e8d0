import type { PlanGate } from '@gezeit/contract';
import type { DayState, GateView, Instruction, ReadyMoment } from '@gezeit/core';
import {
  dayState,
  draftProgramme,
  instruct,
  scheduled,
  withConditioning,
  gateListText,
  nextSteps,
  reasonOf,
  titleOf,
  trendText,
  waitText,
  gateTargetText,
  gateValueText,
  minutesText,
  stopText,
} from '@gezeit/core';
import { describe, expect, it } from 'vitest';
import { dayTide } from '../src/features/day/day-tide.js';
import { Show } from '../src/shared/units/show.js';

const metric = new Show({ power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'kPa' });
const imperial = new Show({ power: 'hp', torque: 'lb·ft', temperature: '°F', pressure: 'psi' });
const coolant: PlanGate = { id: 'coolant', label: 'Coolant', target: 88, tolerance: 3, unit: '°C', must: true };
const intake: PlanGate = {
  id: 'intake',
  label: 'Intake air above ambient',
  target: 8,
  tolerance: 4,
  unit: 'K',
  must: true,
  side: 'at-most',
};
const rest: PlanGate = { id: 'rest', label: 'Since the last pull', target: 5, tolerance: 1, unit: 'min', must: true, side: 'at-least' };
const view = (gate: PlanGate, value: number | null, perMin: number | null = null): GateView => ({
  gate,
  value,
  perMin,
  source: 'stream',
  standing: 'waiting',
  ready: null,
});
const range = (lowS: number, midS: number, highS: number): ReadyMoment => ({ kind: 'range', lowS, midS, highS });

describe('the words of the day', () => {
  it('give a wait to the second where it is known so well, as a range where not, and nothing where it is not known', () => {
    expect(waitText(range(244, 245, 246))).toBe('Wait 4:05');
    expect(waitText(range(62, 81, 98))).toBe('Wait 60–100 s');
    expect(waitText(range(245, 290, 340))).toBe('Wait 4–6 min');
    expect(waitText({ kind: 'unknown', why: 'too-early' })).toBe('Wait');
    expect(waitText({ kind: 'unreachable', why: 'ends-short', endsAt: 17 })).toBe('Not ready');
    expect(minutesText(-3)).toBe('0:00');
  });

  it('show gates in the chosen units', () => {
    expect([gateValueText(view(coolant, 88), metric.words), gateValueText(view(coolant, 88), imperial.words)]).toEqual(['88', '190']);
    expect([gateTargetText(coolant, metric.words), gateTargetText(coolant, imperial.words)]).toEqual(['88 ± 3', '190 ± 5']);
    expect([gateTargetText(intake, metric.words), gateTargetText(intake, imperial.words)]).toEqual(['at most +12', 'at most +22']);
    expect(gateTargetText(rest, metric.words)).toBe('at least 4');
    const boost: PlanGate = { id: 'boost', label: 'Boost', target: 150, tolerance: 10, unit: 'kPa', must: true };
    expect([gateTargetText(boost, metric.words), gateTargetText(boost, imperial.words)]).toEqual(['150 ± 10', '21.8 ± 1.5']);
    const oil = { id: 'oil', label: 'Oil', limit: 140, unit: '°C', above: true };
    expect([stopText(oil, metric.words), stopText(oil, imperial.words)]).toEqual(['Oil above 140 °C', 'Oil above 284 °F']);
    const exhaust = { id: 'exhaust', label: 'Exhaust', limit: null, unit: '°C', above: true };
    expect([stopText(exhaust, metric.words), stopText(exhaust, metric.words, '____')]).toEqual([
      'Exhaust above (not set) °C (watched by eye)',
      'Exhaust above ____ °C (watched by eye)',
    ]);
    expect(stopText({ id: 'lambda', label: 'Lambda', limit: 0.95, unit: '–', above: true }, imperial.words)).toBe('Lambda above 0.95');
    expect(trendText(view(coolant, 88, -2.14), metric.words)).toBe('−2.1 K/min');
    expect(trendText(view(coolant, 88, 0.01), metric.words)).toBe('steady');
    expect(gateListText([view(coolant, 94), view(intake, 19), view(rest, 2.5), view(coolant, null)], metric.words)).toBe(
      'Coolant 94 °C, Intake air +19 K, 2:30 since the last pull, Coolant: no reading',
    );
  });

  const bundle = draftProgramme({ title: 'Words', aspiration: 'turbo', vehicle: null, cell: null });
  const pulls = scheduled({ pulls: withConditioning(['A', 'B', 'B', 'A']) }).pulls;
  const state = dayState([
    { id: 'event-1', at: '2026-03-04T08:00:00Z', by: 'TS', what: { kind: 'begun', day: '2026-03-04', pulls, fitted: null } },
  ]);
  const cell = { nowMs: Date.parse('2026-03-04T08:10:00Z'), readings: [], history: {} };

  it('have a title and a reason for every kind of instruction, short enough to be read from afar', () => {
    const first = instruct(state, [], cell, true);
    const kinds: Instruction['kind'][] = [
      'plan',
      'begin',
      'stop',
      'driving',
      'swapping',
      'check',
      'swap',
      'wait',
      'pull',
      'finish',
      'ended',
    ];
    const full: DayState = {
      ...state,
      stop: {
        criterion: 'oil',
        text: 'Oil 141 °C is over the limit of 140',
        passed: { label: 'Oil', value: 141, limit: 140, unit: '°C', above: true },
        atMs: 0,
      },
      running: { id: 'p03', setup: 'A', kind: 'measured' } as DayState['running'],
      swapping: { to: 'B', sinceMs: cell.nowMs - 61_000 },
    };
    for (const kind of kinds) {
      const instruction: Instruction = {
        ...first,
        kind,
        holding: kind === 'wait' ? [view(coolant, 94)] : [],
        ready: kind === 'wait' ? range(100, 110, 125) : null,
      };
      const title = titleOf(instruction, 'p03');
      expect(title.length, kind).toBeGreaterThan(3);
      expect(title.length, kind).toBeLessThan(15);
      const reason = reasonOf(instruction, full, metric.words, () => '9:12', cell.nowMs, 7);
      expect(reason, kind).toMatch(/\.$/);
      expect(reason.length, kind).toBeLessThan(90);
    }
    expect(titleOf({ ...first, kind: 'swap', step: { ...first.step!, setup: 'B' } }, null)).toBe('Swap to B');
  });

  it('name what comes next, the swap where it comes, and not what is to be done now', () => {
    const first = instruct(state, [], cell, true);
    expect(first.kind).toBe('pull');
    expect(nextSteps(first, state.remaining, 'A', 4).map(({ text, setup }) => `${text} ${setup}`)).toEqual([
      'Measure A',
      'Swap to B',
      'Condition B',
      'Measure B',
    ]);
    expect(nextSteps({ ...first, kind: 'driving' }, state.remaining, 'A', 1).map(({ text }) => text)).toEqual(['Condition']);
    expect(bundle.setups.map(({ id }) => id)).toEqual(['A', 'B']);
  });

  it('lay the day out: driven pulls, what the devices showed, and what is ahead at the earliest', () => {
    const atMs = Array.from({ length: 200 }, (_, i) => cell.nowMs - (200 - i) * 3000);
    const history = { intakeAirTemperature: { atMs, value: atMs.map(() => 26) } };
    const { tide, posts } = dayTide(state, null, history, 20, cell.nowMs, { restMin: 5, swapMin: 20 }, 120, new Map());
    expect(posts).toHaveLength(pulls.length);
    expect(posts.every(({ ahead }) => ahead)).toBe(true);
    expect(posts[0]!.startMs - cell.nowMs).toBe(120_000);
    expect(posts[2]!.startMs - posts[1]!.startMs).toBe(20 * 60_000);
    expect(tide.stretches[0]!.kind).toBe('logged');
    expect(tide.stretches[0]!.valueK[0]).toBe(6);
    expect(tide.stretches.slice(1).every(({ kind }) => kind === 'fitted')).toBe(true);
  });
});
