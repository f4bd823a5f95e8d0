import type { Plan, PlanPull } from '@gezeit/contract';
import { scheduled } from './schedule.js';

/**
 * A plan that never goes back over a swap without a way back: pulls of the setup that is left for good, which stood behind the swap, come
 * before it instead. Conditioning pulls that stood with them fall away; they have nothing to settle any more.
 */
export function withoutWayBack(plan: Plan): Plan {
  let pulls: PlanPull[] = plan.pulls;
  for (const { from, to, back } of plan.swaps ?? []) {
    if (!back) continue;
    const crossing = pulls.findIndex((pull, i) => i > 0 && pulls[i - 1]!.setup === from && pull.setup === to);
    if (crossing < 0) continue;
    const late = pulls.filter((pull, i) => i > crossing && pull.setup === from);
    if (late.length === 0) continue;
    const behind = pulls.slice(crossing).filter(({ setup }) => setup !== from);
    pulls = [...pulls.slice(0, crossing), ...late.filter(({ kind }) => kind === 'measured'), ...behind];
  }
  return scheduled({ ...plan, pulls });
}
