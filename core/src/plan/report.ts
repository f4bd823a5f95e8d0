import type { Bundle, Plan, PlanReport } from '@gezeit/contract';
import { shiftableGate } from '../channels/gate-quantity.js';
import { comparedPairs } from '../compare/state-clouds.js';
import { isOrderConfounded } from '../compare/order.js';
import { OWN_START_RULES } from '../compare/own-start.js';
import { plannedResolution } from './planned-resolution.js';
import { columnText, planMatrix } from './matrix.js';
import { impossibleReturn, oneWaySwaps } from './one-way.js';
import { mean } from '../numeric/means.js';

type Warning = PlanReport['warnings'][number];

/** What a bundle's plan will be able to recognise, how long it takes, and what is wrong with it: `gezeit plan` and the screen. */
export function planReport(bundle: Bundle): PlanReport {
  const plan: Plan = bundle.plan ?? { pulls: [] };
  const times = plan.pulls.map(({ atMin }) => atMin);
  return {
    format: 'gezeit-plan',
    version: 1,
    comparisons: plannedResolution(bundle).map(({ reference, candidate, resolution }) => ({ reference, candidate, ...resolution })),
    lengthMin: times.length === 0 ? 0 : Math.max(...times) - Math.min(...times),
    warnings: plan.pulls.length === 0 ? [] : planWarnings(bundle, plan),
  };
}

function planWarnings(bundle: Bundle, plan: Plan): Warning[] {
  return [
    ...pairWarnings(bundle, plan),
    ...gateWarnings(bundle, plan),
    ...conditioningWarnings(plan),
    ...combinationWarnings(bundle, plan),
    ...swapWarnings(plan),
  ];
}

const measuredOf = (plan: Plan, setup: string) => plan.pulls.filter((pull) => pull.setup === setup && pull.kind === 'measured');

function pairWarnings(bundle: Bundle, plan: Plan): Warning[] {
  const wantsOwnStart = bundle.programme.questions?.some(({ start }) => start === 'own') ?? false;
  return comparedPairs(bundle).flatMap(([reference, candidate]): Warning[] => {
    const [a, b] = [measuredOf(plan, reference.id), measuredOf(plan, candidate.id)];
    if (a.length === 0 || b.length === 0) {
      const missing = [...(a.length === 0 ? [reference.id] : []), ...(b.length === 0 ? [candidate.id] : [])];
      return [
        {
          code: 'not-planned',
          detail: `${candidate.id} against ${reference.id}: no measured pull of ${missing.join(' and ')} is planned.`,
        },
      ];
    }
    const warnings: Warning[] = [];
    const [hoursA, hoursB] = [a, b].map((pulls) => pulls.map(({ atMin }) => atMin / 60)) as [number[], number[]];
    if (isOrderConfounded(hoursA, hoursB)) {
      const apart = Math.abs(mean(hoursB) - mean(hoursA));
      const [first, second] = mean(hoursA) < mean(hoursB) ? [reference.id, candidate.id] : [candidate.id, reference.id];
      warnings.push({
        code: 'order-confounded',
        detail: `Every ${first} comes before every ${second}: 1 % of drift an hour would look like ${apart.toFixed(1)} % of the part.`,
      });
    }
    for (const [setup, pulls] of [
      [reference.id, a],
      [candidate.id, b],
    ] as const)
      if (pulls.length === 1)
        warnings.push({ code: 'single-pull', detail: `${setup} has a single measured pull: one bad pull, and nothing is known.` });
    if (wantsOwnStart) {
      const rests = [reference.id, candidate.id].map((setup) => mean(restsBefore(plan, setup))) as [number, number];
      const allowed = Math.max(OWN_START_RULES.restShare * Math.max(...rests), OWN_START_RULES.restMin);
      if (Math.abs(rests[0] - rests[1]) > allowed)
        warnings.push({
          code: 'unequal-rests',
          detail: `The rests before the measured pulls differ (${rests[0].toFixed(1)} min with ${reference.id}, ${rests[1].toFixed(1)} min with ${candidate.id}): the part’s own start cannot be judged.`,
        });
    }
    return warnings;
  });
}

function gateWarnings({ programme }: Bundle, plan: Plan): Warning[] {
  const gate = programme.questions?.some(({ start }) => start === 'own') ? shiftableGate(plan.gates ?? []) : null;
  if (!gate) return [];
  return [
    {
      code: 'gate-shifts',
      detail: `The gate “${gate.label}” must be met and holds a temperature that the part can shift: the part’s own start cannot be judged.`,
    },
  ];
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

function conditioningWarnings(plan: Plan): Warning[] {
  const all = blocks(plan);
  const without = [...new Set(all.filter(({ conditioning }) => conditioning === 0).map(({ setup }) => setup))];
  const warnings: Warning[] = [];
  if (without.length > 0)
    warnings.push({
      code: 'no-conditioning',
      detail: `No conditioning pull before the first measured one of ${without.join(', ')}: an engine control that re-learns costs those pulls.`,
    });
  const counts = new Set(all.map(({ conditioning }) => conditioning));
  if (counts.size > 1)
    warnings.push({
      code: 'unequal-conditioning',
      detail: `The blocks begin with ${[...counts].sort().join(' or ')} conditioning pulls: the same number for every setup compares like with like.`,
    });
  return warnings;
}

/** Combinations that a planned comparison would miss at the desk. */
function combinationWarnings(bundle: Bundle, plan: Plan): Warning[] {
  const { rows, columns, keys } = planMatrix(bundle, plan);
  return rows.flatMap(({ name, cells, reference }) =>
    cells.flatMap((cell, i): Warning[] => {
      if (!cell.missing) return [];
      const why = reference ? 'as its candidate is' : 'as the reference is';
      return [
        {
          code: 'combination-missing',
          detail: `${name} is not planned with ${columnText(columns[i]!, keys)}, ${why}: that comparison will be missing at the desk.`,
        },
      ];
    }),
  );
}

function swapWarnings(plan: Plan): Warning[] {
  const order = plan.pulls.map(({ setup }) => setup);
  return oneWaySwaps(plan).flatMap((swap): Warning[] => {
    if (!impossibleReturn(order, [swap])) return [];
    const { from, to, back } = swap;
    return [
      {
        code: 'swap-without-way-back',
        detail: `The plan has ${from} after ${to}, and ${from} → ${to} ${back === 'never' ? 'cannot be undone' : 'is too long to return today'}.`,
      },
    ];
  });
}
