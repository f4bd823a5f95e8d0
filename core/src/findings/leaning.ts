import type { ComparisonChoices, DifferenceCurve, Findings } from '@gezeit/contract';
import { said, type AnySaid } from '../said.js';

/** What is known of a comparison only after its first sentence stands. */
export interface LaterKnown {
  choices: readonly ComparisonChoices[];
  differences: readonly DifferenceCurve[];
}

/**
 * Findings with what each answer about power rests on, in figures and behind its sentence, and with what its curve shows outside the band. The page,
 * the command and what leaves the house write the same sentences by this.
 */
export function withLeaning(findings: Findings, { choices, differences }: LaterKnown): Findings {
  const comparisons = findings.comparisons.map((comparison) => {
    const isOwn = ({ reference, candidate }: { reference: string; candidate: string }) =>
      reference === comparison.reference && candidate === comparison.candidate;
    const own = choices.find(isOwn);
    if (!own) return comparison;
    const leans = own.leansOn.length > 0 && own.base ? [said('leans-on', { answer: own.base.answer, leansOn: own.leansOn })] : [];
    const behind = own.withheld ? [] : [...leans, ...(differences.find(isOwn)?.said['outside'] ?? [])];
    const after = (told: Record<string, AnySaid[]>) => ({ ...told, why: [...(told['why'] ?? []), ...behind] });
    const leads = comparison.answers.find(({ question }) => question === own.question);
    const isVerdicts = leads === undefined || leads.kind === 'power-gain';
    return {
      ...comparison,
      leansOn: own.leansOn,
      verdict: isVerdicts ? { ...comparison.verdict, said: after(comparison.verdict.said) } : comparison.verdict,
      answers: comparison.answers.map((answer) => (answer === leads ? { ...answer, said: after(answer.said) } : answer)),
    };
  });
  return { ...findings, comparisons };
}
