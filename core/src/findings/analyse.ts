import type { Bundle, Comparison, Findings, PullFinding, Setup } from '@gezeit/contract';
import type { Band } from '../pull/band.js';
import { bandMean, bandPeak } from '../pull/band.js';
import type { LogTables } from '../pull/curve.js';
import { analysePulls, onEveryPull, pullFactor, type AnalysedPull } from './analysed-pull.js';
import { chargeCooling, intakeAirRiseK } from './charge-cooling.js';
import { assumptionsFor } from './assumptions-for.js';
import { compare, DayFits } from './compare.js';
import { referenceFor } from './confounds.js';
import { restrictionFindings } from './restriction.js';

/** A bundle, analysed: what the screens draw from, and the findings. */
export interface Analysis {
  bundle: Bundle;
  pulls: AnalysedPull[];
  findings: Findings;
}

/**
 * From logs to verdicts: traces → pulls → summaries → comparisons → findings.
 * @throws GezeitError where a pull's logs cannot belong to it.
 */
export function analyse(bundle: Bundle, tables: LogTables): Analysis {
  const pulls = analysePulls(bundle, tables);
  const days = new DayFits(bundle, pulls, assumptionsFor(bundle));
  const comparisons = comparedPairs(bundle).map(([reference, candidate]) => compare(days, reference, candidate));
  const band = bundle.programme.bandRpm;
  const setups = bundle.setups.map(({ id }) => id);
  const findings: Findings = {
    format: 'gezeit-findings',
    version: 1,
    pulls: pulls.map((entry) => pullFinding(bundle, entry, pulls, comparisons)),
    comparisons,
    restriction: restrictionFindings(pulls, setups, band),
    chargeCooling: chargeCooling(pulls, setups, band),
    warnings: bundleWarnings(bundle),
  };
  return { bundle, pulls, findings };
}

/** Every candidate with its reference, then the pairs that the programme asks for; archived setups are left alone. */
export function comparedPairs(bundle: Bundle): [Setup, Setup][] {
  const candidates = bundle.setups.filter(({ reference, archived }) => !reference && !archived);
  const pairs: [Setup, Setup][] = candidates.flatMap((candidate) => {
    const reference = referenceFor(bundle, candidate);
    return reference ? [[reference, candidate]] : [];
  });
  const byId = new Map(bundle.setups.map((setup) => [setup.id, setup]));
  for (const [reference, candidate] of bundle.programme.comparisons ?? []) {
    if (!pairs.some(([a, b]) => a.id === reference && b.id === candidate)) pairs.push([byId.get(reference)!, byId.get(candidate)!]);
  }
  return pairs;
}

function bundleWarnings(bundle: Bundle): string[] {
  const warnings: string[] = [];
  if (!bundle.setups.some(({ reference }) => reference)) warnings.push('No setup is marked as the reference: nothing is compared.');
  const byStandard = bundle.vehicle.ignition === 'compression' && !['NONE', 'DIN_70020'].includes(bundle.programme.correction);
  if (byStandard) warnings.push('The spark-ignition factor is used on a compression-ignition engine: its own needs the fuel flow.');
  return warnings;
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
  const typed = pull.typed?.peakPowerKW ?? null;
  const corrected = (watt: number | null) => (watt === null || factor === null ? null : (watt * factor) / 1000);
  const finite = (value: number | undefined) => (value !== undefined && Number.isFinite(value) ? value : null);
  const flags = entry.flags.map(({ flag }) => flag);
  const spared = flags.filter((flag) => onEveryPull(all, pull.setup, flag));
  return {
    id: pull.id,
    setup: pull.setup,
    status: entry.used ? 'used' : 'excluded',
    reasons: entry.reasons,
    startS: finite(curve?.startS),
    endS: finite(curve?.endS),
    correctionFactor: factor,
    meanPowerUncorrectedKW: mean === null ? null : mean / 1000,
    meanPowerKW: corrected(mean),
    peakPowerKW: peak ? corrected(peak.value) : corrected(typed === null ? null : typed * 1000),
    peakPowerRpm: peak?.rpm ?? pull.typed?.peakPowerRpm ?? null,
    startIntakeAirC: start.intakeAirC,
    intakeAirRiseK: intakeAirRiseK(entry),
    flags,
    warnings: [...entry.warnings, ...spared.map((flag) => `${flag} on every pull of ${pull.setup}: said of the setup, not of the pull.`)],
  };
}
