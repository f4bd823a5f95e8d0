import type { Bundle, Plan, PlanSwap } from '@gezeit/contract';
import { impossibleReturn, oneWaySwaps } from './one-way.js';
import { scheduled, withConditioning } from './schedule.js';

export type PracticeId =
  | 'one-each'
  | 'there'
  | 'there-and-back'
  | 'mirrored'
  | 'alternating'
  | 'pairs'
  | 'progressive'
  | 'fresh-and-settled'
  | 'hot-soak';

/** A common way of running a day; its words are in `words/practice-words.ts`. */
export interface Practice {
  id: PracticeId;
  plan: Plan;
  /** Standard deviation of one pull in this cell, as it is stated; null where it is not. */
  repeatabilityPct: number | null;
  /** The swap that it would have to go back over and cannot; null where it can be driven. */
  impossible: PlanSwap | null;
}

/** Common practices for a bundle's setups, on the times of its present plan. */
export function practices(bundle: Bundle, pullsEach = 2): Practice[] {
  const inUse = bundle.setups.filter(({ archived }) => !archived);
  const reference = inUse.find((setup) => setup.reference) ?? inUse[0];
  const candidates = inUse.filter((setup) => !setup.reference).map(({ id }) => id);
  if (!reference || candidates.length === 0) return [];
  const a = reference.id;
  const repeat = (setup: string, count = pullsEach) => Array.from({ length: count }, () => setup);
  const steps = candidates.flatMap((candidate) => repeat(candidate));
  const times = bundle.plan ?? { pulls: [] };
  const plan = (order: string[], conditioning = 1): Plan => scheduled({ ...times, pulls: withConditioning(order, conditioning) });
  const repeatabilityPct = bundle.cells?.[0]?.repeatabilityPct ?? bundle.cell?.repeatabilityPct ?? null;
  const list: Pick<Practice, 'id' | 'plan'>[] = [
    {
      id: 'one-each',
      plan: plan([a, ...candidates]),
    },
    {
      id: 'there',
      plan: plan([...repeat(a), ...steps]),
    },
    {
      id: 'there-and-back',
      plan: plan([...repeat(a), ...steps, ...repeat(a)]),
    },
    {
      id: 'mirrored',
      plan: plan([a, ...steps, a]),
    },
  ];
  if (candidates.length === 1) {
    const b = candidates[0]!;
    list.push({
      id: 'alternating',
      plan: plan([a, b, b, a, b, a, a, b]),
    });
    list.push({
      id: 'pairs',
      plan: scheduled({
        ...times,
        pulls: withConditioning([a, a, b, b, b, b, a, a]).map((pull, i, all) =>
          i > 0 && pull.kind === 'measured' && all[i - 1]!.kind === 'measured' && all[i - 1]!.setup === pull.setup && i % 2 === 0
            ? { ...pull, restMin: 1 }
            : pull,
        ),
      }),
    });
  } else {
    list.push({
      id: 'progressive',
      plan: plan([a, ...steps, ...[...candidates].reverse().slice(1), a]),
    });
  }
  list.push({
    id: 'fresh-and-settled',
    plan: scheduled({
      ...times,
      pulls: [
        ...withConditioning(repeat(a, 3)),
        ...withConditioning(
          candidates.flatMap((candidate) => repeat(candidate, 6)),
          0,
        ),
        ...withConditioning(repeat(a)),
      ],
    }),
  });
  list.push({
    id: 'hot-soak',
    plan: scheduled({
      ...times,
      restMin: 2,
      pulls: withConditioning([...repeat(a, 4), ...candidates.flatMap((candidate) => repeat(candidate, 4)), ...repeat(a, 2)]),
    }),
  });
  const oneWay = oneWaySwaps(times);
  return list.map((practice) => ({
    ...practice,
    repeatabilityPct,
    impossible: impossibleReturn(
      practice.plan.pulls.map(({ setup }) => setup),
      oneWay,
    ),
  }));
}
