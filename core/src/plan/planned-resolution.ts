import type { Bundle } from '@gezeit/contract';
import { planResolution, type Resolution } from '../judge/resolution.js';
import { comparedPairs } from '../compare/state-clouds.js';
import { assumptionsFor } from '../compare/assumptions-for.js';

/** What a bundle's plan will be able to recognise, for each comparison that it holds measured pulls of. */
export function plannedResolution(bundle: Bundle): { reference: string; candidate: string; resolution: Resolution }[] {
  const planned = bundle.plan?.pulls ?? [];
  const measured = planned.map((pull, pullsBefore) => ({ ...pull, pullsBefore })).filter(({ kind }) => kind === 'measured');
  const assumptions = assumptionsFor(bundle);
  return comparedPairs(bundle).flatMap(([reference, candidate]) => {
    const setups = [reference.id, ...new Set(measured.map(({ setup }) => setup).filter((setup) => setup !== reference.id))];
    const index = setups.indexOf(candidate.id);
    if (index < 1 || !measured.some(({ setup }) => setup === reference.id)) return [];
    const series = {
      setup: measured.map(({ setup }) => setups.indexOf(setup)),
      timeH: measured.map(({ atMin }) => atMin / 60),
      pullsBefore: measured.map(({ pullsBefore }) => pullsBefore),
    };
    return [
      { reference: reference.id, candidate: candidate.id, resolution: planResolution(series, assumptions, assumptions.noise)[index - 1]! },
    ];
  });
}
