import { loggedGear, OTHER_GEAR_SHARE, speedRatio } from '../pull/speed-ratio.js';
import { said, type AnySaid } from '../said.js';
import type { AnalysedPull } from './analysed-pull.js';

/** Means of a value over the compared pulls of reference and candidate; null where some pull lacks it. */
type MeansOf = (value: (entry: AnalysedPull) => number | null | undefined) => { reference: number; candidate: number } | null;

/** That the setups were driven in different gears, as the logs tell it: by the gear's own channel, else by the ratio of the speeds. */
export function gearSaid(meansOf: MeansOf): AnySaid | null {
  const gears = meansOf(({ curve }) => curve && loggedGear(curve));
  if (gears) {
    const [reference, candidate] = [Math.round(gears.reference), Math.round(gears.candidate)];
    return reference === candidate ? null : said('gear-apart', { reference, candidate, differencePct: null });
  }
  for (const speed of ['rollerSpeed', 'vehicleSpeed'] as const) {
    const ratios = meansOf(({ curve }) => {
      const ratio = curve && speedRatio(curve);
      return ratio && ratio.of === speed ? Math.log(ratio.overall) : null;
    });
    if (!ratios) continue;
    const share = Math.expm1(ratios.candidate - ratios.reference);
    return Math.abs(share) <= OTHER_GEAR_SHARE
      ? null
      : said('gear-apart', { reference: null, candidate: null, differencePct: 100 * share });
  }
  return null;
}
