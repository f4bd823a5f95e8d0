import type { Bundle, Claim, ClaimFinding, ComparisonChoices, Evidence } from '@gezeit/contract';
import { claimFindings } from './findings/claims.js';
import { choicesOf } from './findings/choices.js';
import { curvesOf } from './findings/curves.js';
import { withLeaning } from './findings/leaning.js';
import { findingsOf, judgeOf, type Analysis } from './findings/findings-of.js';
import type { LogTables } from './pull/sweep-assignment.js';
import { measurePulls, type MeasuredPull } from './pull/measure.js';
import { PLAIN_FORMATTER } from './format/plain-formatter.js';
import { withWords } from './words/say.js';

/**
 * From logs to verdicts in the exchange format: the findings with their texts, in °C and kPa.
 * @param evidence results of the bench that were kept: claims of flow are held against them.
 * @throws GezeitError where a pull's logs cannot belong to it.
 */
export function analyse(bundle: Bundle, tables: LogTables, evidence: readonly Evidence[] = []): Analysis {
  return analyseMeasured(bundle, measurePulls(bundle, tables), evidence);
}

/** The same from pulls that were measured before: a pull that is left out is measured no second time. */
export function analyseMeasured(bundle: Bundle, measured: readonly MeasuredPull[], evidence: readonly Evidence[] = []): Analysis {
  const analysis = findingsOf(bundle, measured, evidence);
  return { ...analysis, findings: withWords(analysis.findings, PLAIN_FORMATTER) };
}

/** What else could have been chosen, from pulls that were measured before. @param extent only what the second sentence comes from, or all. */
export function choicesOfMeasured(bundle: Bundle, measured: readonly MeasuredPull[], extent: 'short' | 'all'): ComparisonChoices[] {
  return choicesOf(judgeOf(bundle, measured), extent);
}

/** Holds one claim, made after everything was seen, against what was measured: it is no claim of the programme, and nothing is kept of it. */
export function checkClaim(bundle: Bundle, measured: readonly MeasuredPull[], evidence: readonly Evidence[], claim: Claim): ClaimFinding {
  const asked = { ...bundle, programme: { ...bundle.programme, claims: [{ ...claim, afterwards: true }] } };
  return claimFindings(judgeOf(asked, measured), evidence)[0]!;
}

/** The same findings with what every answer about power rests on, and what its curve shows outside the band: as the command prints them. */
export function analyseWithLeaning(bundle: Bundle, tables: LogTables, evidence: readonly Evidence[] = []): Analysis {
  const measured = measurePulls(bundle, tables);
  const analysis = findingsOf(bundle, measured, evidence);
  const judge = judgeOf(bundle, measured);
  const later = { choices: choicesOf(judge, 'short'), differences: curvesOf(judge).differences };
  return { ...analysis, findings: withWords(withLeaning(analysis.findings, later), PLAIN_FORMATTER) };
}
