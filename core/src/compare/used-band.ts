import { covers } from '../checks/short.js';
import { throttleClosing } from '../checks/throttle-closed.js';
import type { Band } from '../pull/band.js';
import type { AnalysedPull } from './analysed-pull.js';

/** The band of a comparison after short and capped pulls, and what happened to it. */
export interface UsedBand {
  asked: Band;
  band: Band;
  /** Share of the asked band that is left. */
  share: number;
  shortSetups: string[];
  /** Setup whose throttle the engine closes, so that the band was cut below the first closing. */
  cappedSetup: string | null;
  /** Both setups are capped alike: nothing is cut. */
  cappedAlike: boolean;
}

/** Under this share of the band the verdict is withheld. */
export const LEAST_BAND_SHARE = 0.6;
/** A capped band ends this far below the first closing of the throttle, rpm. */
const BELOW_FIRST_CLOSING_RPM = 100;

/** The part of an asked band that both setups of a comparison cover and run freely. */
export function usedBand(asked: Band, pulls: AnalysedPull[], setups: readonly [string, string]): UsedBand {
  let [low, high] = asked;
  const curves = (setup: string) => pulls.flatMap(({ pull, used, curve }) => (used && curve && pull.setup === setup ? [curve] : []));
  const every = (setup: string, test: (curve: ReturnType<typeof curves>[number]) => boolean) =>
    curves(setup).length > 0 && curves(setup).every(test);
  const shortSetups = setups.filter((setup) => every(setup, (curve) => !covers(curve, asked)));
  if (shortSetups.length > 0) {
    for (const curve of setups.flatMap(curves)) {
      low = Math.max(low, curve.gridRpm[0]!);
      high = Math.min(high, curve.gridRpm.at(-1)!);
    }
  }
  const capped = setups.filter((setup) => every(setup, (curve) => throttleClosing(curve, asked) !== null));
  const cappedSetup = capped.length === 1 ? capped[0]! : null;
  if (cappedSetup) {
    const closings = curves(cappedSetup).map((curve) => throttleClosing(curve, asked)!.fromRpm);
    high = Math.min(high, Math.min(...closings) - BELOW_FIRST_CLOSING_RPM);
  }
  const band: Band = high > low ? [low, high] : [low, low + 1];
  return {
    asked,
    band,
    share: Math.max(0, high - low) / (asked[1] - asked[0]),
    shortSetups,
    cappedSetup,
    cappedAlike: capped.length === 2,
  };
}
