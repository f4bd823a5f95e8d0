import type { Bundle } from '@gezeit/contract';
import type { Band } from '../pull/band.js';
import { onEveryPull, type AnalysedPull } from './analysed-pull.js';

/** The band of a comparison after short and capped pulls, and what happened to it. */
export interface UsedBand {
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
export const BELOW_FIRST_CLOSING_RPM = 100;

/** The band that both setups of a comparison cover and run freely. */
export function usedBand(bundle: Bundle, pulls: AnalysedPull[], setups: readonly [string, string]): UsedBand {
  let [low, high] = bundle.programme.bandRpm;
  const asked = high - low;
  const own = pulls.filter(({ pull, used, curve }) => used && curve && setups.includes(pull.setup));
  const shortSetups = setups.filter((setup) => onEveryPull(pulls, setup, 'short'));
  if (shortSetups.length > 0) {
    for (const { curve } of own) {
      low = Math.max(low, curve!.gridRpm[0]!);
      high = Math.min(high, curve!.gridRpm.at(-1)!);
    }
  }
  const capped = setups.filter((setup) => onEveryPull(pulls, setup, 'throttle-closed'));
  const cappedAlike = capped.length === 2;
  const cappedSetup = capped.length === 1 ? capped[0]! : null;
  if (cappedSetup) {
    const closings = own.flatMap(({ pull, flags }) => (pull.setup === cappedSetup ? flags.flatMap(({ fromRpm }) => fromRpm ?? []) : []));
    high = Math.min(high, Math.min(...closings) - BELOW_FIRST_CLOSING_RPM);
  }
  const band: Band = high > low ? [low, high] : [low, low + 1];
  return { band, share: Math.max(0, high - low) / asked, shortSetups, cappedSetup, cappedAlike };
}
