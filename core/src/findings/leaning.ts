import type { ComparisonChoices, Findings } from '@gezeit/contract';
import { said, type AnySaid } from '../said.js';

/** What an answer rests on, to be said behind it; null where no single change of the short list changes it. */
export function leaningSaid({ leansOn, base }: Pick<ComparisonChoices, 'leansOn' | 'base'>): AnySaid | null {
  return leansOn.length === 0 || !base ? null : said('leans-on', { answer: base.answer, leansOn });
}

/** Findings with what each answer about power rests on, in figures and behind its sentence. */
export function withLeaning(findings: Findings, choices: readonly ComparisonChoices[]): Findings {
  const comparisons = findings.comparisons.map((comparison) => {
    const own = choices.find(({ reference, candidate }) => reference === comparison.reference && candidate === comparison.candidate);
    if (!own) return comparison;
    const behind = leaningSaid(own);
    const after = (told: Record<string, AnySaid[]>) => (behind ? { ...told, why: [...(told['why'] ?? []), behind] } : told);
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
