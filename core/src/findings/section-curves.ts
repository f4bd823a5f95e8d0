import type { Curves } from '@gezeit/contract';
import type { PairJudge } from '../compare/judged-pair.js';
import { pointsOf, sectionsOf } from '../compare/restriction.js';
import { fitLaw, type LawPoints } from '../restriction/section-law.js';
import { stepOf } from '../restriction/section-step.js';

/** Every how many engine speeds of the grid a point is drawn, and points of a law. */
const EVERY = 4;
const LAW_POINTS = 48;

/** What every used pull shows of the sections that are logged, and the law through the pulls of each setup. */
export function sectionCurves({ bundle, assumptions, pulls }: PairJudge): Curves['sections'] {
  const curves: Curves['sections'] = { points: [], laws: [] };
  for (const { id: setup } of bundle.setups) {
    const own = pulls.filter((entry) => entry.used && entry.pull.setup === setup);
    for (const section of sectionsOf(pulls, [setup])) {
      const points = own.flatMap((entry) => {
        const found = pointsOf(bundle, assumptions, entry, section);
        return found ? [{ pull: entry.pull.id, found }] : [];
      });
      if (points.length === 0) continue;
      const thinned = (values: Float64Array) => [...values].filter((_, i) => i % EVERY === 0);
      for (const { pull, found } of points)
        curves.points.push({
          pull,
          setup,
          section,
          engineSpeedRpm: thinned(found.rpm),
          flowKgS: thinned(found.flowKgS),
          dropPa: thinned(found.dropPa),
        });
      curves.laws.push({ setup, section, ...lawCurve(points.map(({ found }) => found)) });
    }
  }
  return curves;
}

/** The law of a section over the flow it was read at; a step is drawn where it is. */
function lawCurve(pulls: readonly LawPoints[]): { flowKgS: number[]; dropPa: number[] } {
  const step = stepOf(pulls);
  const law = fitLaw(pulls);
  const flows = pulls.flatMap(({ flowKgS }) => [...flowKgS]);
  const [least, most] = [flows.reduce((a, b) => Math.min(a, b)), flows.reduce((a, b) => Math.max(a, b))];
  // The air of the pulls themselves: what they read is what is drawn.
  const perSquare = meanOf(pulls.flatMap(({ flowKgS, square }) => [...flowKgS].map((flow, i) => square[i]! / flow ** 2)));
  const flowKgS = Array.from({ length: LAW_POINTS }, (_, i) => least + ((most - least) * i) / (LAW_POINTS - 1));
  const dropPa = flowKgS.map((flow) => {
    const { laminar, turbulent } = step ? (flow < step.atFlowKgS ? step.below : step.above) : law;
    return laminar * flow + turbulent * flow ** 2 * perSquare;
  });
  return { flowKgS, dropPa };
}

const meanOf = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
