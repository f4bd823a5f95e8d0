import type { Bundle, PlanReport } from '@gezeit/contract';
import type { MatrixColumn, PlanMatrix } from '../plan/matrix.js';
import { planFindings, type PlanWarning } from '../plan/plan-findings.js';

/** A plan's findings with their sentences: what `gezeit plan` and the screen say. */
export function planReport(bundle: Bundle): PlanReport {
  const { comparisons, lengthMin, warnings } = planFindings(bundle);
  return {
    format: 'gezeit-plan',
    version: 1,
    comparisons,
    lengthMin,
    warnings: warnings.map((warning) => ({ code: warning.code, detail: warningText(warning) })),
  };
}

function warningText(warning: PlanWarning): string {
  switch (warning.code) {
    case 'not-planned':
      return `${warning.candidate} against ${warning.reference}: no measured pull of ${warning.missing.join(' and ')} is planned.`;
    case 'order-confounded':
      return `Every ${warning.first} comes before every ${warning.second}: 1 % of drift an hour would look like ${warning.hoursApart.toFixed(1)} % of the part.`;
    case 'single-pull':
      return `${warning.setup} has a single measured pull: one bad pull, and nothing is known.`;
    case 'unequal-rests': {
      const rests = warning.rests.map(({ setup, restMin }) => `${restMin.toFixed(1)} min with ${setup}`);
      return `The rests before the measured pulls differ (${rests.join(', ')}): the part’s own start cannot be judged.`;
    }
    case 'gate-shifts':
      return `The gate “${warning.gate}” must be met and holds a temperature that the part can shift: the part’s own start cannot be judged.`;
    case 'no-conditioning':
      return `No conditioning pull before the first measured one of ${warning.setups.join(', ')}: an engine control that re-learns costs those pulls.`;
    case 'unequal-conditioning':
      return `The blocks begin with ${warning.counts.join(' or ')} conditioning pulls: the same number for every setup compares like with like.`;
    case 'combination-missing': {
      const why = warning.isReference ? 'as its candidate is' : 'as the reference is';
      return `${warning.parts} is not planned with ${columnText(warning.column, warning.keys)}, ${why}: that comparison will be missing at the desk.`;
    }
    case 'swap-without-way-back': {
      const { from, to, back } = warning.swap;
      return `The plan has ${from} after ${to}, and ${from} → ${to} ${back === 'never' ? 'cannot be undone' : 'is too long to return today'}.`;
    }
  }
}

/** A column in the words of what differs: "bonnet open, fan 60 km/h". */
export function columnText({ state }: MatrixColumn, keys: PlanMatrix['keys']): string {
  return keys.map((key) => `${key} ${state[key]}`).join(', ') || 'one state';
}
