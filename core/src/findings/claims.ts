import type { Bundle, Claim, Comparison, Curves, Evidence, Findings } from '@gezeit/contract';
import { claimKW } from '../bench/budget.js';
import { GezeitError } from '../errors.js';

/** What became of a claim. */
export interface ClaimCheck {
  claim: Claim;
  candidate: string | null;
  /** holds: at least the claim; open: the measurement allows it and does not show it; contradicted: less than claimed. */
  state: 'holds' | 'open' | 'contradicted' | 'not-checked';
  measured: { value: number; low: number; high: number; unit: string } | null;
  why: string;
}

interface Measured {
  value: number;
  low: number;
  high: number;
  unit: string;
}

/** Holds every claim against what was measured: in the unit and at the engine speed in which it was made. */
export function checkClaims(bundle: Bundle, findings: Findings, curves: Curves | null, evidence: readonly Evidence[]): ClaimCheck[] {
  return (bundle.programme.claims ?? []).map((claim) => {
    const comparison = findings.comparisons.find(({ candidate }) => candidate === claim.setup) ?? findings.comparisons[0] ?? null;
    const open = (why: string): ClaimCheck => ({
      claim,
      candidate: comparison?.candidate ?? null,
      state: 'not-checked',
      measured: null,
      why,
    });
    try {
      return checkClaim(claim, bundle, comparison, curves, evidence, open);
    } catch (error) {
      if (!(error instanceof GezeitError)) throw error;
      return open(error.line);
    }
  });
}

function checkClaim(
  claim: Claim,
  bundle: Bundle,
  comparison: Comparison | null,
  curves: Curves | null,
  evidence: readonly Evidence[],
  open: (why: string) => ClaimCheck,
): ClaimCheck {
  const told = (state: ClaimCheck['state'], measured: Measured | null, why: string): ClaimCheck => ({ ...open(why), state, measured });
  const quantity = claim.quantity ?? 'power';
  if (quantity === 'flow') {
    const measured = flowOf(evidence);
    if (!measured) return open('No comparison of the flow bench is kept as evidence yet.');
    return judged(measured, claim.value ?? null, 'at least', told);
  }
  if (!comparison?.levelled) return open('Nothing is compared yet.');
  const { levelled } = comparison;
  if (quantity === 'no-loss') {
    const g = bundle.programme.smallestGainPct;
    const measured = { value: levelled.pct, low: levelled.low, high: levelled.high, unit: '%' };
    if (levelled.low > -g) return told('holds', measured, `Whatever is lost is less than ${g} %.`);
    if (levelled.high < -g) return told('contradicted', measured, `At least ${(-levelled.high).toFixed(1)} % is lost.`);
    return told('open', measured, 'A loss that matters can neither be shown nor ruled out.');
  }
  if (quantity === 'temperature') {
    const kinds = new Map((bundle.programme.questions ?? []).map(({ id, kind }) => [id, kind]));
    const answer = comparison.answers.find(({ question, estimate }) => kinds.get(question) === 'cooler-charge' && estimate !== null);
    if (!answer || answer.estimate == null || answer.low == null || answer.high == null)
      return open('Ask “Is the charge cooler?” as well: then the claim can be held against it.');
    return judged({ value: answer.estimate, low: answer.low, high: answer.high, unit: 'K' }, claim.value ?? null, 'at most', told);
  }
  if (quantity !== 'power') return open(`Nothing is measured that “${quantity}” could be held against.`);
  const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
  const powerAt = cells[0]?.powerAt;
  if (claim.powerAt && powerAt && claim.powerAt !== powerAt)
    return open(`It is claimed at the ${claim.powerAt} and was measured at the ${powerAt}: no loss is ever added back.`);
  if (!curves && !(claim.unit === '%' && !claim.atRpm)) return open('The curves are still being judged.');
  const measured = powerOf(claim, comparison, curves);
  if (!measured) return open(claim.atRpm ? `The curves do not reach ${claim.atRpm} rpm.` : 'There is no curve yet.');
  return judged(measured, claim.unit === '%' ? (claim.value ?? null) : claimKW(claim), 'at least', told);
}

function judged(
  measured: Measured,
  claimed: number | null,
  sense: 'at least' | 'at most',
  told: (state: ClaimCheck['state'], measured: Measured, why: string) => ClaimCheck,
): ClaimCheck {
  if (claimed === null) return told('not-checked', measured, 'The claim names no figure.');
  const [worst, best] =
    sense === 'at least' ? [measured.low - claimed, measured.high - claimed] : [claimed - measured.high, claimed - measured.low];
  if (worst >= 0) return told('holds', measured, 'The whole interval is at least what is claimed.');
  if (best < 0) return told('contradicted', measured, 'The whole interval is less than what is claimed.');
  return told('open', measured, 'The claim lies inside the interval: the measurement allows it and does not show it.');
}

/** Difference of power at the claimed engine speed, or over the band, in kW or per cent. */
function powerOf(claim: Claim, comparison: Comparison, curves: Curves | null): Measured | null {
  const percent = claim.unit === '%';
  if (!claim.atRpm && percent && comparison.levelled) {
    const { pct, low, high } = comparison.levelled;
    return { value: pct, low, high, unit: '%' };
  }
  const difference = curves?.differences.find(
    ({ reference, candidate }) => reference === comparison.reference && candidate === comparison.candidate,
  );
  const power = curves?.setups.find(({ setup }) => setup === comparison.reference);
  if (!difference || !power) return null;
  const speed = claim.atRpm ?? null;
  if (speed === null) {
    const { pct, low, high } = comparison.levelled!;
    const [from, to] = comparison.bandUsedRpm;
    const inBand = power.powerW.filter((_, i) => power.engineSpeedRpm[i]! >= from && power.engineSpeedRpm[i]! <= to);
    const mean = inBand.reduce((sum, value) => sum + value, 0) / inBand.length / 1000;
    return { value: (pct / 100) * mean, low: (low / 100) * mean, high: (high / 100) * mean, unit: 'kW' };
  }
  const at = (x: readonly number[], y: readonly number[]) => interpolate(x, y, speed);
  const [pct, low, high] = [difference.pct, difference.lowPct, difference.highPct].map((values) =>
    at(difference.engineSpeedRpm, values),
  ) as [number | null, number | null, number | null];
  const base = at(power.engineSpeedRpm, power.powerW);
  if (pct === null || low === null || high === null || base === null) return null;
  if (percent) return { value: pct, low, high, unit: '%' };
  const kW = (value: number) => (value / 100) * (base / 1000);
  return { value: kW(pct), low: kW(low), high: kW(high), unit: 'kW' };
}

function flowOf(evidence: readonly Evidence[]): Measured | null {
  const figures = evidence.filter(({ instrument }) => instrument === 'flow-bench').flatMap((entry) => entry.figures);
  const more = figures.filter(({ name }) => name.endsWith('/moreFlow')).at(-1);
  if (!more || more.value === null || more.low == null || more.high == null) return null;
  return { value: more.value, low: more.low, high: more.high, unit: '%' };
}

function interpolate(x: readonly number[], y: readonly number[], at: number): number | null {
  for (let i = 1; i < x.length; i++) {
    if (at < x[i - 1]! || at > x[i]!) continue;
    return y[i - 1]! + ((y[i]! - y[i - 1]!) * (at - x[i - 1]!)) / (x[i]! - x[i - 1]!);
  }
  return null;
}
