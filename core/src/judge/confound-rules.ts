import type { Affected, ConfoundCode } from '@gezeit/contract';

/** What of a setup's state is compared. */
export type StateName = 'tune' | 'fuel' | 'gear' | 'driveMode' | 'tyres' | 'bonnet' | 'fan' | 'boostTarget' | 'learned' | 'airMeter';

/** How a difference between setups that was stated, not measured, clouds an answer. */
export interface StateRule {
  code: ConfoundCode;
  keys: string[];
  affects: Affected[];
  withholds: Affected[];
  what: StateName;
  /** What is to be checked because of it. */
  ask?: 'mixture';
}

export const STATE_RULES: StateRule[] = [
  { code: 'tune-changed', keys: ['tune'], affects: ['power'], withholds: ['power'], what: 'tune' },
  { code: 'fuel-changed', keys: ['fuel', 'ethanolPct'], affects: ['power'], withholds: ['power'], what: 'fuel' },
  { code: 'gear-changed', keys: ['gear'], affects: ['power'], withholds: ['power'], what: 'gear' },
  { code: 'drive-mode-changed', keys: ['driveMode'], affects: ['power'], withholds: ['power'], what: 'driveMode' },
  { code: 'tyres-changed', keys: ['tyres', 'tyrePressureKPa'], affects: ['power'], withholds: ['power'], what: 'tyres' },
  { code: 'bonnet-changed', keys: ['bonnet'], affects: ['power', 'temperature'], withholds: ['power', 'temperature'], what: 'bonnet' },
  { code: 'fan-changed', keys: ['fan'], affects: ['power', 'temperature'], withholds: ['power', 'temperature'], what: 'fan' },
  {
    code: 'boost-target-changed',
    keys: ['boostTargetKPa', 'boostControl'],
    affects: ['power', 'temperature'],
    withholds: ['power', 'temperature'],
    what: 'boostTarget',
  },
  {
    code: 'learned-state-changed',
    keys: ['learned'],
    affects: ['power'],
    withholds: ['power'],
    what: 'learned',
  },
  {
    code: 'air-meter-changed',
    keys: ['airMeter'],
    affects: ['power'],
    withholds: [],
    what: 'airMeter',
    ask: 'mixture',
  },
];

/** State keys by which a candidate finds its reference. */
export const MATCHED_KEYS = ['bonnet', 'fan', 'learned', 'fuel', 'ethanolPct', 'gear', 'driveMode', 'tyres', 'tyrePressureKPa'];

/** Thresholds of the measured confounds. */
export const MEASURED_RULES = {
  /** A measured difference withholds where it could explain this share of the answer (or of the smallest that matters). */
  withholdingShare: 0.25,
  timingDeg: 0.7,
  lambda: 0.02,
  airMeter: 0.025,
  coolantK: 5,
  factorLow: 0.93,
  factorHigh: 1.07,
  factorsApart: 0.01,
  /** Spark is the charge temperature's doing where it moves the other way by at most this, °/K, and the charge moved by at least this, K. */
  sparkPerKelvin: 0.25,
  chargeMovedK: 3,
};

/** Power per lambda: f = 1 − c(λ − λb)²; assumption with its range, petrol. */
export const LAMBDA_CURVE = { best: [0.85, 0.91], curvature: [1.5, 4], usual: 2.5 } as const;

/** Largest change of log power that a change of lambda could mean within the curve's range. */
export function largestLambdaEffect(from: number, to: number): number {
  let largest = 0;
  for (const best of LAMBDA_CURVE.best) {
    for (const curvature of LAMBDA_CURVE.curvature) {
      const power = (lambda: number) => Math.log(Math.max(0.5, 1 - curvature * (lambda - best) ** 2));
      largest = Math.max(largest, Math.abs(power(to) - power(from)));
    }
  }
  return largest;
}
