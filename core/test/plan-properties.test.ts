import type { Bundle, Plan, PlanPull } from '@gezeit/contract';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  blockOf,
  changePull,
  draftProgramme,
  insertPulls,
  movePulls,
  planReport,
  practices,
  practiceText,
  pullsFromLetters,
  removePulls,
  repeatPulls,
  scheduled,
  swapCount,
  swapMinutes,
} from '../src/index.js';

// Whatever is moved, put in or taken out: the plan stays a plan, and more of it never recognises less.

const SETUPS = ['A', 'B', 'C'];
const plans = fc
  .record({
    letters: fc.array(fc.constantFrom('A', 'a', 'B', 'b', 'C'), { minLength: 2, maxLength: 20, size: 'max' }),
    restMin: fc.integer({ min: 2, max: 20 }),
    swapMin: fc.integer({ min: 3, max: 90 }),
    ownSwap: fc.option(fc.integer({ min: 3, max: 120 }), { nil: null }),
  })
  .map(({ letters, restMin, swapMin, ownSwap }): Plan =>
    scheduled({
      pulls: pullsFromLetters(letters.join(''), SETUPS),
      restMin,
      swapMin,
      ...(ownSwap === null ? {} : { swaps: [{ from: 'A', to: 'B', minutes: ownSwap }] }),
    }),
  );
const places = fc.tuple(fc.nat(30), fc.nat(30), fc.nat(30));
const lettersOf = ({ pulls }: Plan) => pulls.map(({ setup, kind }) => (kind === 'measured' ? setup : setup.toLowerCase())).join('');
const sorted = (text: string) => [...text].sort().join('');

/** What every plan must be, however it came about. */
function expectPlan(plan: Plan): void {
  expect(plan.pulls[0]?.atMin ?? 0).toBe(0);
  for (const [i, pull] of plan.pulls.entries()) {
    const before: PlanPull | undefined = plan.pulls[i - 1];
    if (!before) continue;
    const gap = before.setup === pull.setup ? (pull.restMin ?? plan.restMin!) : swapMinutes(plan, before.setup, pull.setup);
    expect(pull.atMin - before.atMin).toBeCloseTo(gap + (pull.breakMin ?? 0), 2);
  }
}

const RUNS = { numRuns: 250, seed: 20260306 };

describe('any plan at all', () => {
  it('keeps its pulls when they are moved, and its clock fits the order that it has then', () => {
    fc.assert(
      fc.property(plans, places, (plan, [a, b, target]) => {
        const count = plan.pulls.length;
        const [from, to] = [a % count, b % count].sort((x, y) => x - y) as [number, number];
        const before = target % (count + 1);
        const moved = movePulls(plan, from, to, before);
        expectPlan(moved);
        // Before what stood at the target, and the rest as it was.
        const letters = [...lettersOf(plan)];
        const isAmong = before >= from && before <= to + 1;
        const expected = letters.map((letter, place) => ({ letter, at: place >= from && place <= to && !isAmong ? before - 0.5 : place }));
        const order = expected.sort((x, y) => x.at - y.at).map(({ letter }) => letter);
        expect(lettersOf(moved)).toBe(order.join(''));
        expect(sorted(lettersOf(moved))).toBe(sorted(lettersOf(plan)));
        // What was moved stands together, in its own order.
        expect(lettersOf(moved)).toContain(lettersOf(plan).slice(from, to + 1));
      }),
      RUNS,
    );
  });

  it('comes back where what was put in or repeated is taken out again', () => {
    fc.assert(
      fc.property(plans, places, (plan, [a, b, kind]) => {
        const place = a % (plan.pulls.length + 1);
        const more = insertPulls(plan, place, [
          { setup: SETUPS[kind % 3]!, kind: 'measured' },
          { setup: 'B', kind: 'conditioning' },
        ]);
        expectPlan(more);
        expect(more.pulls).toHaveLength(plan.pulls.length + 2);
        expect(removePulls(more, place, place + 1)).toEqual(plan);
        const [from, to] = blockOf(plan, b % plan.pulls.length);
        const twice = repeatPulls(plan, from, to);
        expectPlan(twice);
        expect(removePulls(twice, to + 1, to + 1 + to - from)).toEqual(plan);
        // A block is as long as it can be.
        expect(new Set(plan.pulls.slice(from, to + 1).map(({ setup }) => setup)).size).toBe(1);
        expect(plan.pulls[from - 1]?.setup).not.toBe(plan.pulls[from]!.setup);
        expect(plan.pulls[to + 1]?.setup).not.toBe(plan.pulls[to]!.setup);
      }),
      RUNS,
    );
  });

  it('moves only what comes later where a break is put in', () => {
    fc.assert(
      fc.property(plans, fc.nat(30), fc.integer({ min: 1, max: 90 }), (plan, at, minutes) => {
        const place = 1 + (at % (plan.pulls.length - 1));
        const later = changePull(plan, place, { breakMin: minutes });
        expectPlan(later);
        for (const [i, { atMin }] of later.pulls.entries()) expect(atMin).toBeCloseTo(plan.pulls[i]!.atMin + (i >= place ? minutes : 0), 2);
      }),
      RUNS,
    );
  });

  it('never recognises less when a measured pull is added at its end', () => {
    fc.assert(
      fc.property(plans, fc.nat(2), (plan, setup) => {
        const bundle = bundleOf(plan);
        const longer = bundleOf(insertPulls(plan, plan.pulls.length, [{ setup: SETUPS[setup]!, kind: 'measured' }]));
        const after = new Map(planReport(longer).comparisons.map((entry) => [entry.candidate, entry]));
        for (const { candidate, halfWidthPct, smallestResolvablePct, smallestNoDifferencePct } of planReport(bundle).comparisons) {
          const then = after.get(candidate)!;
          expect(then.halfWidthPct).toBeLessThanOrEqual(halfWidthPct * (1 + 1e-9));
          expect(smallestResolvablePct / halfWidthPct).toBeCloseTo(2.8 / 1.96, 6);
          expect(smallestNoDifferencePct / halfWidthPct).toBeCloseTo(3.24 / 1.96, 6);
        }
      }),
      { ...RUNS, numRuns: 80 },
    );
  });

  it('recognises the same whichever setup is called the reference of two', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('A', 'B'), { minLength: 2, maxLength: 12, size: 'max' }), (letters) => {
        fc.pre(new Set(letters).size === 2);
        const plan = scheduled({ pulls: pullsFromLetters(letters.join(''), SETUPS), restMin: 5, swapMin: 20 });
        const widths = ['A', 'B'].map((reference) => planReport(bundleOf(plan, ['A', 'B'], reference)).comparisons[0]!.halfWidthPct);
        expect(widths[0]).toBeCloseTo(widths[1]!, 9);
        expect(swapCount(letters)).toBe(letters.filter((letter, i) => i > 0 && letters[i - 1] !== letter).length);
      }),
      { ...RUNS, numRuns: 80 },
    );
  });
});

describe('the practices that are offered', () => {
  it('are plans of the setups that there are, each with its price, for any number of setups', () => {
    for (const count of [2, 3, 4, 6, 9]) {
      const ids = Array.from({ length: count }, (_, i) => String.fromCharCode(65 + i));
      const bundle = bundleOf({ pulls: [], restMin: 5, swapMin: 20 }, ids);
      for (const practice of practices(bundle)) {
        expect(practiceText(practice).price.length, practice.id).toBeGreaterThan(20);
        const plan = scheduled({ restMin: 5, swapMin: 20, ...practice.plan, pulls: practice.plan.pulls });
        expect(plan.pulls.length, practice.id).toBeGreaterThan(0);
        expectPlan({ restMin: 5, swapMin: 20, ...plan });
        expect(ids).toEqual(expect.arrayContaining([...new Set(plan.pulls.map(({ setup }) => setup))]));
      }
    }
  });
});

function bundleOf(plan: Plan, ids = SETUPS, reference = 'A'): Bundle {
  const draft = draftProgramme({ title: 'Any plan', aspiration: 'turbo', vehicle: null, cell: null });
  return { ...draft, setups: ids.map((id) => ({ ...draft.setups[0]!, id, name: id, reference: id === reference })), plan };
}
