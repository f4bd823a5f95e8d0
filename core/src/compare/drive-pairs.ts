import { LAP_FIGURES, type DriveFinding, type DrivePair, type Drives } from '@gezeit/contract';
import { mean, pooledDifference } from '../numeric/means.js';
import type { AnalysedPull } from './analysed-pull.js';

/** Laps and long runs, and what the laps of two setups differ by. One that was left out by hand is shown, and not compared. */
export function driveFindings(pulls: readonly AnalysedPull[], pairs: readonly (readonly [string, string])[]): Drives {
  const driven = pulls.flatMap(({ pull, drive }) =>
    drive
      ? [{ isOut: typeof pull.excluded === 'string' || pull.aborted === true, finding: { ...drive, pull: pull.id, setup: pull.setup } }]
      : [],
  );
  const counted = driven.filter(({ isOut }) => !isOut).map(({ finding }) => finding);
  return {
    drives: driven.map(({ finding }) => finding),
    pairs: pairs.flatMap(([reference, candidate]) => pairOf(counted, reference, candidate) ?? []),
  };
}

function pairOf(drives: readonly DriveFinding[], reference: string, candidate: string): DrivePair | null {
  const lapsOf = (setup: string) =>
    drives
      .filter((drive) => drive.setup === setup)
      .flatMap(({ laps }) => [laps.filter(({ counts }) => counts)])
      .filter((laps) => laps.length > 0);
  const [a, b] = [lapsOf(reference), lapsOf(candidate)];
  if (a.length === 0 || b.length === 0) return null;
  // Laps of one drive share its tyres, fuel and weather: where drives were repeated, they are what is repeated.
  const between = a.length > 1 && b.length > 1 ? 'drives' : 'laps';
  return {
    reference,
    candidate,
    laps: { reference: a.flat().length, candidate: b.flat().length },
    drives: { reference: a.length, candidate: b.length },
    between,
    figures: LAP_FIGURES.flatMap((of): DrivePair['figures'] => {
      const values = (drive: (typeof a)[number]) => drive.flatMap((lap) => lap[of] ?? []);
      const groups = (all: typeof a) =>
        between === 'laps' ? all.flatMap(values) : all.map(values).flatMap((own) => (own.length > 0 ? [mean(own)] : []));
      const difference = pooledDifference(groups(a), groups(b));
      return difference ? [{ of, reference: mean(groups(a)), difference }] : [];
    }),
  };
}
