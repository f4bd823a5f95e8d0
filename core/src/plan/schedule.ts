import type { Plan, PlanPull } from '@gezeit/contract';

/** Minutes from pull to pull, and across a swap, where a plan says nothing. Assumptions. */
export const PLAN_TIMES = { restMin: 5, swapMin: 32 };

/** Minutes that a swap takes in a plan. */
export function swapMinutes(plan: Pick<Plan, 'swapMin' | 'swaps'>, from: string, to: string): number {
  const own = plan.swaps?.find((swap) => swap.from === from && swap.to === to)?.minutes;
  return own ?? plan.swapMin ?? PLAN_TIMES.swapMin;
}

/** A plan with its clock set anew: the first pull at 0, each next one after its rest, swap and break. */
export function scheduled(plan: Plan): Plan {
  let atMin = 0;
  const pulls = plan.pulls.map((pull, i): PlanPull => {
    const before = plan.pulls[i - 1];
    if (before) {
      const rest =
        before.setup === pull.setup ? (pull.restMin ?? plan.restMin ?? PLAN_TIMES.restMin) : swapMinutes(plan, before.setup, pull.setup);
      atMin += rest + (pull.breakMin ?? 0);
    }
    return { ...pull, atMin: Number(atMin.toFixed(3)) };
  });
  return { ...plan, pulls };
}

/** Pulls from letters: a small letter is a conditioning pull. Setups are named by their place in the list, A first. */
export function pullsFromLetters(letters: string, setups: readonly string[]): PlanPull[] {
  return [...letters].map((letter) => {
    const setup = setups[letter.toUpperCase().charCodeAt(0) - 65]!;
    return { setup, kind: letter === letter.toUpperCase() ? 'measured' : 'conditioning', atMin: 0 };
  });
}

/** Measured pulls with so many conditioning pulls before the first one and after every swap. */
export function withConditioning(measured: readonly string[], perBlock = 1): PlanPull[] {
  return measured.flatMap((setup, i): PlanPull[] => {
    const pull: PlanPull = { setup, kind: 'measured', atMin: 0 };
    if (i > 0 && measured[i - 1] === setup) return [pull];
    return [...Array.from({ length: perBlock }, (): PlanPull => ({ setup, kind: 'conditioning', atMin: 0 })), pull];
  });
}

/** Number of swaps in an order of setups. */
export function swapCount(order: readonly string[]): number {
  return order.reduce((count, setup, i) => count + (i > 0 && order[i - 1] !== setup ? 1 : 0), 0);
}
