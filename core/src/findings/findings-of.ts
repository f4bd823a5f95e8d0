import type { Bundle, Comparison, Evidence, Findings, PullFinding } from '@gezeit/contract';
import { analysePulls, metricValue, onEveryPull, pullFactor, type AnalysedPull } from '../compare/analysed-pull.js';
import { assumptionsFor } from '../compare/assumptions-for.js';
import { chargeCooling, intakeAirRiseK } from '../compare/charge-cooling.js';
import { driveFindings } from '../compare/drive-pairs.js';
import { heatOf } from '../compare/heat.js';
import { PairJudge } from '../compare/judged-pair.js';
import { roadFindings } from '../compare/road-runs.js';
import { restrictionFindings } from '../compare/restriction.js';
import { comparedPairs } from '../compare/state-clouds.js';
import type { Band } from '../pull/band.js';
import { bandMean, bandPeak } from '../pull/band.js';
import type { MeasuredPull } from '../pull/measure.js';
import { said, type AnySaid } from '../said.js';
import { claimFindings } from './claims.js';
import { comparisonOf } from './comparison.js';

/** A bundle, analysed: what the screens draw from, and the findings. */
export interface Analysis {
  bundle: Bundle;
  pulls: AnalysedPull[];
  findings: Findings;
}

/** The measured pulls of a bundle, ready to be judged pair by pair: what findings and curves are made from. */
export function judgeOf(bundle: Bundle, measured: readonly MeasuredPull[]): PairJudge {
  const assumptions = assumptionsFor(bundle);
  return new PairJudge(bundle, analysePulls(bundle, measured, assumptions), assumptions);
}

/**
 * From pulls to verdicts: summaries → comparisons → findings, as codes and values; the texts are still empty.
 * @param evidence results of the bench that were kept: claims of flow are held against them.
 */
export function findingsOf(bundle: Bundle, measured: readonly MeasuredPull[], evidence: readonly Evidence[] = []): Analysis {
  const judge = judgeOf(bundle, measured);
  const { pulls } = judge;
  // A draft with something left to say is shown, and not judged.
  const pairs = (bundle.unanswered ?? []).length > 0 ? [] : comparedPairs(bundle);
  const comparisons = pairs.map(([reference, candidate]) => comparisonOf(judge, reference, candidate));
  const band = bundle.programme.bandRpm;
  const setups = bundle.setups.map(({ id }) => id);
  const findings: Findings = {
    format: 'gezeit-findings',
    version: 1,
    pulls: pulls.map((entry) => pullFinding(bundle, entry, pulls, comparisons)),
    comparisons,
    claims: claimFindings(judge, evidence),
    restriction: restrictionFindings(bundle, judge.assumptions, pulls, setups, band),
    chargeCooling: chargeCooling(bundle, judge.assumptions, pulls, setups, band),
    road: roadFindings(
      bundle,
      judge.assumptions,
      pulls,
      pairs.map(([reference, candidate]) => [reference.id, candidate.id]),
    ),
    drives: driveFindings(
      pulls,
      pairs.map(([reference, candidate]) => [reference.id, candidate.id]),
    ),
    warnings: [],
    said: { warnings: bundleWarnings(bundle) },
  };
  return { bundle, pulls, findings };
}

function bundleWarnings(bundle: Bundle): AnySaid[] {
  const byStandard = bundle.vehicle.ignition === 'compression' && !['NONE', 'DIN_70020'].includes(bundle.programme.correction);
  return [
    ...(bundle.setups.some(({ reference }) => reference) ? [] : [said('no-reference', {})]),
    ...((bundle.unanswered ?? []).length > 0
      ? [said('draft-unanswered', { left: bundle.unanswered!.length, first: bundle.unanswered![0]!.what })]
      : []),
    ...(byStandard ? [said('spark-factor-on-diesel', {})] : []),
  ];
}

/** The smallest of the bands in which a setup's pulls are compared. */
function bandOfSetup(bundle: Bundle, setup: string, comparisons: Comparison[]): Band {
  const own = comparisons.filter(({ reference, candidate }) => reference === setup || candidate === setup);
  const low = Math.max(bundle.programme.bandRpm[0], ...own.map(({ bandUsedRpm }) => bandUsedRpm[0]));
  const high = Math.min(bundle.programme.bandRpm[1], ...own.map(({ bandUsedRpm }) => bandUsedRpm[1]));
  return low < high ? [low, high] : bundle.programme.bandRpm;
}

function pullFinding(bundle: Bundle, entry: AnalysedPull, all: AnalysedPull[], comparisons: Comparison[]): PullFinding {
  const { pull, curve, start } = entry;
  const band = bandOfSetup(bundle, pull.setup, comparisons);
  const factor = pullFactor(bundle.programme.correction, entry);
  const mean = curve ? bandMean(curve, 'power', band) : null;
  const peak = curve ? bandPeak(curve, 'power', band) : null;
  const corrected = (watt: number | null) => (watt === null || factor === null ? null : (watt * factor) / 1000);
  const finite = (value: number | undefined) => (value !== undefined && Number.isFinite(value) ? value : null);
  const flags = entry.flags.map(({ flag }) => flag);
  const spared = flags.filter((flag) => onEveryPull(all, pull.setup, flag));
  return {
    id: pull.id,
    setup: pull.setup,
    status: entry.used ? 'used' : 'excluded',
    reasons: entry.leftOut.map(({ reason }) => reason),
    startS: finite(curve?.startS),
    endS: finite(curve?.endS),
    correctionFactor: factor,
    meanPowerUncorrectedKW: mean === null ? null : mean / 1000,
    meanPowerKW: corrected(mean),
    peakPowerKW: corrected(peak?.value ?? metricValue('peakPower', entry, band)),
    peakPowerRpm: peak?.rpm ?? pull.typed?.peakPowerRpm ?? null,
    startIntakeAirC: start.intakeAirC,
    intakeAirRiseK: intakeAirRiseK(entry),
    heat: heatOf(entry),
    flags,
    warnings: [],
    said: { warnings: [...entry.warnings, ...spared.map((flag) => said('flag-on-every-pull', { flag, setup: pull.setup }))] },
  };
}
