import type { Plan, Tide } from '@gezeit/contract';

/** Heat that a pull leaves in the intake, and how it ebbs: two masses, the quick one by the air, the slow one bay and box. */
export interface HeatForecast {
  perPullK: number;
  /** Share of it that ebbs quickly. */
  quickShare: number;
  quickS: number;
  slowS: number;
  /** Start above ambient of a car that has stood warm, and what a standing car comes back to. */
  firstK: number;
  standingK: number;
}

/** Until the car's and the cell's own recovery is known from earlier days. Assumptions. */
export const HEAT_FORECAST: HeatForecast = { perPullK: 24, quickShare: 0.7, quickS: 70, slowS: 750, firstK: 6, standingK: 3 };

const PULL_S = 12;
const POINTS = 18;

/** The tide of a planned day: every pull's rise and the ebb to the next one, from time 0; pulls are named by their place, "n1" first. */
export function forecastTide(plan: Pick<Plan, 'pulls'>, heat: HeatForecast = HEAT_FORECAST): Tide {
  const { standingK } = heat;
  let [quick, slow] = [0, heat.firstK - standingK];
  const pulls: Tide['pulls'] = [];
  const stretches: Tide['stretches'] = [];
  plan.pulls.forEach(({ setup, kind, atMin }, i) => {
    const startMs = atMin * 60_000;
    const endMs = startMs + PULL_S * 1000;
    const startK = standingK + quick + slow;
    quick += heat.perPullK * heat.quickShare;
    slow += heat.perPullK * (1 - heat.quickShare);
    pulls.push({
      id: `n${i + 1}`,
      setup,
      kind,
      status: kind === 'measured' ? 'used' : 'excluded',
      startMs,
      endMs,
      startK,
      endK: standingK + quick + slow,
    });
    stretches.push({ kind: 'fitted', atMs: [startMs, endMs], valueK: [startK, standingK + quick + slow] });
    const next = plan.pulls[i + 1];
    if (!next) return;
    const rest = Math.max(1, next.atMin * 60 - endMs / 1000);
    const [fromQuick, fromSlow] = [quick, slow];
    const at = Array.from({ length: POINTS + 1 }, (_, k) => (rest * k) / POINTS);
    const level = (s: number) => standingK + fromQuick * Math.exp(-s / heat.quickS) + fromSlow * Math.exp(-s / heat.slowS);
    stretches.push({ kind: 'fitted', atMs: at.map((s) => endMs + s * 1000), valueK: at.map(level) });
    quick = fromQuick * Math.exp(-rest / heat.quickS);
    slow = fromSlow * Math.exp(-rest / heat.slowS);
  });
  return { source: 'forecast', pulls, stretches };
}
