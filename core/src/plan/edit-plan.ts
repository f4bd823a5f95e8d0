import type { Plan, PlanPull } from '@gezeit/contract';
import { scheduled } from './schedule.js';

/** First and last place of the block of one setup that a pull stands in. */
export function blockOf(plan: Pick<Plan, 'pulls'>, place: number): [number, number] {
  const { pulls } = plan;
  let [from, to] = [place, place];
  while (from > 0 && pulls[from - 1]!.setup === pulls[place]!.setup) from -= 1;
  while (to + 1 < pulls.length && pulls[to + 1]!.setup === pulls[place]!.setup) to += 1;
  return [from, to];
}

const withPulls = (plan: Plan, pulls: PlanPull[]): Plan => scheduled({ ...plan, pulls });

/**
 * A plan with pulls moved to another place: those from one place to another (both included), before what stands at the target; a target
 * among themselves leaves them where they are.
 */
export function movePulls(plan: Plan, from: number, to: number, target: number): Plan {
  const moved = plan.pulls.slice(from, to + 1);
  const rest = [...plan.pulls.slice(0, from), ...plan.pulls.slice(to + 1)];
  const at = Math.max(0, Math.min(rest.length, target > to ? target - (to - from + 1) : Math.min(target, from)));
  return withPulls(plan, [...rest.slice(0, at), ...moved, ...rest.slice(at)]);
}

/** A plan with pulls put in at a place. */
export function insertPulls(plan: Plan, place: number, pulls: readonly Pick<PlanPull, 'setup' | 'kind'>[]): Plan {
  const fresh = pulls.map(({ setup, kind }): PlanPull => ({ setup, kind, atMin: 0 }));
  return withPulls(plan, [...plan.pulls.slice(0, place), ...fresh, ...plan.pulls.slice(place)]);
}

/** A plan without the pulls from one place to another, both included. */
export function removePulls(plan: Plan, from: number, to = from): Plan {
  return withPulls(plan, [...plan.pulls.slice(0, from), ...plan.pulls.slice(to + 1)]);
}

/** A plan with the pulls from one place to another repeated behind them. */
export function repeatPulls(plan: Plan, from: number, to = from): Plan {
  return insertPulls(plan, to + 1, plan.pulls.slice(from, to + 1));
}

/** A plan with one pull changed. */
export function changePull(plan: Plan, place: number, change: Partial<PlanPull>): Plan {
  return withPulls(
    plan,
    plan.pulls.map((pull, i) => (i === place ? { ...pull, ...change } : pull)),
  );
}
