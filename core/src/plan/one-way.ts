import type { Plan, PlanPull, PlanSwap } from '@gezeit/contract';
import { scheduled } from './schedule.js';

/** Swaps of a plan that have no way back; where the way back is named as a swap of its own, it is another copy of the part. */
export function oneWaySwaps({ swaps }: Pick<Plan, 'swaps'>): PlanSwap[] {
  const all = swaps ?? [];
  return all.filter(({ from, to, back }) => back && !all.some((other) => other.from === to && other.to === from && !other.back));
}

/**
 * The first swap without a way back that an order of setups goes back over; null where it keeps to all of them. What cannot be undone never
 * (a part is cut) makes the first setup impossible after the second, wherever the order begins; what is too long to return today only once
 * that swap was made.
 */
export function impossibleReturn(order: readonly string[], swaps: readonly PlanSwap[]): PlanSwap | null {
  for (const swap of swaps) {
    const gone = order.findIndex((setup, i) => setup === swap.to && (swap.back === 'never' || (i > 0 && order[i - 1] === swap.from)));
    if (gone >= 0 && order.slice(gone).includes(swap.from)) return swap;
  }
  return null;
}

/**
 * A plan that never goes back over a swap without a way back: pulls of the setup that is left for good, which stood behind the swap, come
 * before it instead. Where blocks of one setup meet by that, only the conditioning pulls before the first measured one stay.
 */
export function withoutWayBack(plan: Plan): Plan {
  let pulls: PlanPull[] = plan.pulls;
  for (const swap of oneWaySwaps(plan)) {
    if (
      !impossibleReturn(
        pulls.map(({ setup }) => setup),
        [swap],
      )
    )
      continue;
    const first = pulls.findIndex(({ setup }) => setup === swap.to);
    const before = pulls.slice(0, first);
    const late = pulls.slice(first).filter(({ setup }) => setup === swap.from);
    const behind = pulls.slice(first).filter(({ setup }) => setup !== swap.from);
    // Where the order began with the other setup, the first one's own conditioning comes along.
    const settled = before.some(({ setup }) => setup === swap.from);
    pulls = [...before, ...(settled ? late.filter(({ kind }) => kind === 'measured') : late), ...behind];
  }
  return scheduled({ ...plan, pulls: conditioningOnce(pulls) });
}

/** Conditioning pulls within a block of one setup, behind its first measured pull, have nothing to settle any more. */
function conditioningOnce(pulls: readonly PlanPull[]): PlanPull[] {
  let measured = false;
  return pulls.filter(({ setup, kind }, i) => {
    if (i === 0 || pulls[i - 1]!.setup !== setup) measured = false;
    if (kind === 'measured') measured = true;
    return kind !== 'conditioning' || !measured;
  });
}
