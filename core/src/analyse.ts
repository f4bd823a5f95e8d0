import type { Bundle, Evidence } from '@gezeit/contract';
import { findingsOf, type Analysis } from './findings/findings-of.js';
import type { LogTables } from './pull/sweep-assignment.js';
import { measurePulls, type MeasuredPull } from './pull/measure.js';
import { PLAIN_FORMATTER } from './words/plain-formatter.js';
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
