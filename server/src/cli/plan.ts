import { GezeitError, planReport, resolutionText } from '@gezeit/core';
import type { PlanReport } from '@gezeit/contract';
import { readBundle } from '../bundle/read-bundle.js';

/** Prints what a bundle's plan will be able to recognise: a short table, or the exchange format. */
export async function planCommand(path: string, json: boolean): Promise<void> {
  const { bundle } = await readBundle(path);
  if (!bundle.plan)
    throw new GezeitError('no-plan', 'The bundle holds no plan.', 'Add "plan" to it, or plan the day in Gezeit.', { file: 'gezeit.json' });
  const report = planReport(bundle);
  process.stdout.write(`${json ? JSON.stringify(report, null, 2) : planText(report)}\n`);
}

function planText({ comparisons, lengthMin, warnings }: PlanReport): string {
  return [
    ...comparisons.map(
      ({ reference, candidate, smallestResolvablePct, smallestNoDifferencePct, halfWidthPct }) =>
        `${candidate} against ${reference}: recognises ${resolutionText(smallestResolvablePct)}, shows no difference from ${resolutionText(smallestNoDifferencePct)}, half width ${halfWidthPct.toFixed(2)} %`,
    ),
    `length ${Math.floor(lengthMin / 60)} h ${String(Math.round(lengthMin % 60)).padStart(2, '0')} min`,
    ...warnings.map(({ code, detail }) => `${code}: ${detail}`),
  ].join('\n');
}
