import type { Bundle, Plan, PlanSwap } from '@gezeit/contract';
import { impossibleReturn, oneWaySwaps } from './one-way.js';
import { scheduled, withConditioning } from './schedule.js';

/** A common way of running a day, with its price. */
export interface Practice {
  id: string;
  title: string;
  price: string;
  plan: Plan;
  /** Why it cannot be driven with these swaps; null where it can. */
  impossible: string | null;
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
  const noise = bundle.cells?.[0]?.repeatabilityPct ?? bundle.cell?.repeatabilityPct ?? null;
  const list: Omit<Practice, 'impossible'>[] = [
    {
      id: 'one-each',
      title: 'One pull each',
      price: `Best number against best number: ${noise ? `with ${noise} % from pull to pull, two single pulls differ by ${(1.96 * Math.SQRT2 * noise).toFixed(1)} % by themselves, one day in twenty` : 'what the cell does twice in a row is not known, so nothing can be told from it'}.`,
      plan: plan([a, ...candidates]),
    },
    {
      id: 'there',
      title: 'Reference, then change',
      price: 'Simple, and drift lands on the part: more pulls hardly help.',
      plan: plan([...repeat(a), ...steps]),
    },
    {
      id: 'there-and-back',
      title: 'Reference, change, reference',
      price: 'One more swap; a drift shows, and with many setups it halves the width.',
      plan: plan([...repeat(a), ...steps, ...repeat(a)]),
    },
    {
      id: 'mirrored',
      title: 'Mirrored',
      price: 'The reference first and last for the same number of pulls: a third narrower than one block after the other.',
      plan: plan([a, ...steps, a]),
    },
  ];
  if (candidates.length === 1) {
    const b = candidates[0]!;
    list.push({
      id: 'alternating',
      title: 'Alternating',
      price: 'The narrowest for its pulls, and a swap for almost every pull: for parts that change in minutes.',
      plan: plan([a, b, b, a, b, a, a, b]),
    });
    list.push({
      id: 'pairs',
      title: 'Back-to-back pairs',
      price:
        'Two pulls without a rest between, for coolers: the second start shows how the core recovers. It is not a repeat of the first.',
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
      title: 'Progressive steps',
      price:
        'One change after the other, so that it is known which step did it; a setup far from the reference carries the drift between them.',
      plan: plan([a, ...steps, ...[...candidates].reverse().slice(1), a]),
    });
  }
  list.push({
    id: 'fresh-and-settled',
    title: 'Fresh and settled',
    price:
      'No conditioning after the swap, many pulls in a row: the first ones say what the customer feels on the first day, the later ones what stays. Compare them as two states, never across.',
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
    title: 'Hot-soak series',
    price: 'Short rests, so that the box fills with heat: it says how the part stands it, not what it gains from the same start.',
    plan: scheduled({
      ...times,
      restMin: 2,
      pulls: withConditioning([...repeat(a, 4), ...candidates.flatMap((candidate) => repeat(candidate, 4)), ...repeat(a, 2)]),
    }),
  });
  const oneWay = oneWaySwaps(times);
  return list.map((practice) => ({ ...practice, impossible: impossibleText(practice.plan, oneWay) }));
}

function impossibleText({ pulls }: Plan, oneWay: readonly PlanSwap[]): string | null {
  const swap = impossibleReturn(
    pulls.map(({ setup }) => setup),
    oneWay,
  );
  return (
    swap &&
    `It goes back to ${swap.from} after ${swap.to}: ${swap.back === 'never' ? 'that cannot be undone' : 'that is too long for one day'}.`
  );
}
