import type { Bundle, Plan, PlanReport, PlanSwap } from '@gezeit/contract';
import { shiftableGate } from '../channels/gate-quantity.js';
import { comparedPairs } from '../compare/state-clouds.js';
import { isOrderConfounded } from '../compare/order.js';
import { OWN_START_RULES } from '../compare/own-start.js';
import { plannedResolution } from './planned-resolution.js';
import { planMatrix, type MatrixColumn, type PlanMatrix } from './matrix.js';
import { impossibleReturn, oneWaySwaps } from './one-way.js';
import { mean } from '../numeric/means.js';

/** What is wrong with a plan: a code with its values. Its sentence is written in words/plan-warnings. */
export type PlanWarning =
  | { code: 'not-planned'; reference: string; candidate: string; missing: string[] }
  | { code: 'order-confounded'; first: string; second: string; hoursApart: number }
  | { code: 'single-pull'; setup: string }
  | { code: 'unequal-rests'; rests: { setup: string; restMin: number }[] }
  | { code: 'gate-shifts'; gate: string }
  | { code: 'no-conditioning'; setups: string[] }
  | { code: 'unequal-conditioning'; counts: number[] }
  | { code: 'combination-missing'; parts: string; column: MatrixColumn; keys: PlanMatrix['keys']; isReference: boolean }
  | { code: 'swap-without-way-back'; swap: PlanSwap };

/** What a plan will be able to recognise, how long it takes, and what is wrong with it, without a sentence. */
export interface PlanFindings extends Pick<PlanReport, 'comparisons' | 'lengthMin'> {
  warnings: PlanWarning[];
}

export function planFindings(bundle: Bundle): PlanFindings {
  const plan: Plan = bundle.plan ?? { pulls: [] };
  const times = plan.pulls.map(({ atMin }) => atMin);
  return {
    comparisons: plannedResolution(bundle).map(({ reference, candidate, resolution }) => ({ reference, candidate, ...resolution })),
    lengthMin: times.length === 0 ? 0 : Math.max(...times) - Math.min(...times),
    warnings: plan.pulls.length === 0 ? [] : planWarnings(bundle, plan),
  };
}

function planWarnings(bundle: Bundle, plan: Plan): PlanWarning[] {
  return [
    ...pairWarnings(bundle, plan),
    ...gateWarnings(bundle, plan),
    ...conditioningWarnings(plan),
    ...combinationWarnings(bundle, plan),
    ...swapWarnings(plan),
  ];
}

const measuredOf = (plan: Plan, setup: string) => plan.pulls.filter((pull) => pull.setup === setup && pull.kind === 'measured');

function pairWarnings(bundle: Bundle, plan: Plan): PlanWarning[] {
  const wantsOwnStart = bundle.programme.questions?.some(({ start }) => start === 'own') ?? false;
  return comparedPairs(bundle).flatMap(([reference, candidate]): PlanWarning[] => {
    const [a, b] = [measuredOf(plan, reference.id), measuredOf(plan, candidate.id)];
    if (a.length === 0 || b.length === 0) {
      const missing = [...(a.length === 0 ? [reference.id] : []), ...(b.length === 0 ? [candidate.id] : [])];
      return [{ code: 'not-planned', reference: reference.id, candidate: candidate.id, missing }];
    }
    const warnings: PlanWarning[] = [];
    const [hoursA, hoursB] = [a, b].map((pulls) => pulls.map(({ atMin }) => atMin / 60)) as [number[], number[]];
    if (isOrderConfounded(hoursA, hoursB)) {
      const [first, second] = mean(hoursA) < mean(hoursB) ? [reference.id, candidate.id] : [candidate.id, reference.id];
      warnings.push({ code: 'order-confounded', first, second, hoursApart: Math.abs(mean(hoursB) - mean(hoursA)) });
    }
    for (const [setup, pulls] of [
      [reference.id, a],
      [candidate.id, b],
    ] as const)
      if (pulls.length === 1) warnings.push({ code: 'single-pull', setup });
    if (wantsOwnStart) {
      const rests = [reference.id, candidate.id].map((setup) => mean(restsBefore(plan, setup))) as [number, number];
      const allowed = Math.max(OWN_START_RULES.restShare * Math.max(...rests), OWN_START_RULES.restMin);
      if (Math.abs(rests[0] - rests[1]) > allowed)
        warnings.push({ code: 'unequal-rests', rests: [reference, candidate].map(({ id }, i) => ({ setup: id, restMin: rests[i]! })) });
    }
    return warnings;
  });
}

function gateWarnings({ programme }: Bundle, plan: Plan): PlanWarning[] {
  const gate = programme.questions?.some(({ start }) => start === 'own') ? shiftableGate(plan.gates ?? []) : null;
  if (!gate) return [];
  return [{ code: 'gate-shifts', gate: gate.label }];
}

/** Minutes since the pull before, of the measured pulls of a setup; the day's first pull is left out. */
function restsBefore(plan: Plan, setup: string): number[] {
  return plan.pulls.flatMap((pull, i) =>
    i > 0 && pull.setup === setup && pull.kind === 'measured' ? [pull.atMin - plan.pulls[i - 1]!.atMin] : [],
  );
}

/** Blocks of one setup with the conditioning pulls that stand before their first measured one. */
function blocks(plan: Plan): { setup: string; conditioning: number; measured: number }[] {
  const list: { setup: string; conditioning: number; measured: number }[] = [];
  for (const { setup, kind } of plan.pulls) {
    let block = list.at(-1);
    if (!block || block.setup !== setup) list.push((block = { setup, conditioning: 0, measured: 0 }));
    if (kind === 'measured') block.measured += 1;
    else if (block.measured === 0) block.conditioning += 1;
  }
  return list.filter(({ measured }) => measured > 0);
}

function conditioningWarnings(plan: Plan): PlanWarning[] {
  const all = blocks(plan);
  const without = [...new Set(all.filter(({ conditioning }) => conditioning === 0).map(({ setup }) => setup))];
  const warnings: PlanWarning[] = [];
  if (without.length > 0) warnings.push({ code: 'no-conditioning', setups: without });
  const counts = new Set(all.map(({ conditioning }) => conditioning));
  if (counts.size > 1) warnings.push({ code: 'unequal-conditioning', counts: [...counts].sort((a, b) => a - b) });
  return warnings;
}

/** Combinations that a planned comparison would miss at the desk. */
function combinationWarnings(bundle: Bundle, plan: Plan): PlanWarning[] {
  const { rows, columns, keys } = planMatrix(bundle, plan);
  return rows.flatMap(({ name, cells, reference }) =>
    cells.flatMap((cell, i): PlanWarning[] => {
      if (!cell.missing) return [];
      return [{ code: 'combination-missing', parts: name, column: columns[i]!, keys, isReference: reference }];
    }),
  );
}

function swapWarnings(plan: Plan): PlanWarning[] {
  const order = plan.pulls.map(({ setup }) => setup);
  return oneWaySwaps(plan)
    .filter((swap) => impossibleReturn(order, [swap]))
    .map((swap) => ({ code: 'swap-without-way-back', swap }));
}
