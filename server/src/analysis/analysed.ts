import type { Bundle, Findings, PullDetail, Tide } from '@gezeit/contract';
import { CHECKS, onEveryPull, PLAIN_FORMATTER, plannedResolution, tideOf, withWords, type Analysis } from '@gezeit/core';

/** Findings, tide and details of the pulls: what the screens draw from, but the curves. */
export interface Analysed {
  findings: Findings;
  tide: Tide;
  pulls: PullDetail[];
  /** What the plan of a programme without pulls could resolve: its worst comparison, per cent; null without a plan, or with pulls. */
  plannedResolvablePct: number | null;
}

/** What an analysis shows. */
export function analysedOf(bundle: Bundle, analysis: Analysis): Analysed {
  return {
    findings: analysis.findings,
    tide: tideOf(analysis.pulls, bundle.days ?? []),
    pulls: pullDetails(analysis),
    plannedResolvablePct: bundle.pulls.length > 0 ? null : plannedPct(bundle),
  };
}

function plannedPct(bundle: Bundle): number | null {
  const resolvable = plannedResolution(bundle).map(({ resolution }) => resolution.smallestResolvablePct);
  return resolvable.length > 0 ? Math.max(...resolvable) : null;
}

function pullDetails({ pulls, findings }: Analysis): PullDetail[] {
  const chances = new Map<string, number>();
  for (const { weights } of findings.comparisons) {
    for (const [id, chance] of Object.entries(weights?.badPull ?? {})) chances.set(id, Math.max(chance, chances.get(id) ?? 0));
  }
  return pulls.map((entry) => ({
    id: entry.pull.id,
    flags: entry.flags.map(({ flag, said, where }) => {
      const { leavesOut, suggestsLeavingOut, touches } = CHECKS[flag];
      return withWords(
        {
          flag,
          detail: '',
          said: { detail: [said] },
          leavesOut: leavesOut && !onEveryPull(pulls, entry.pull.setup, flag),
          suggestsLeavingOut,
          touches: [...touches],
          where: [...(where ?? [])],
        },
        PLAIN_FORMATTER,
      );
    }),
    startCoolantC: entry.start.coolantC,
    startOilC: entry.start.oilC,
    ambientC: entry.air?.temperatureC ?? null,
    alignments: entry.curve?.alignments ?? [],
    badChance: chances.get(entry.pull.id) ?? null,
  }));
}
