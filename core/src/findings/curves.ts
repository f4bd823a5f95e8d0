import type { Curves, DifferenceCurve, SetupCurve } from '@gezeit/contract';
import type { AnalysedPull } from '../compare/analysed-pull.js';
import type { PairJudge } from '../compare/judged-pair.js';
import { commonSpeeds, correctedPower } from '../compare/point-difference.js';
import { comparedPairs } from '../compare/state-clouds.js';
import { claimQuestion, powerTerms } from '../compare/terms.js';
import { sectionCurves } from './section-curves.js';
import { differenceCurve } from './difference-curve.js';
import { interpolate } from '../numeric/interpolate.js';
import { meanInterval } from '../numeric/means.js';

/** Step of the curves that are drawn, rpm. */
const DRAWN_STEP_RPM = 50;

/** Power and torque over engine speed for every setup, their differences, and the single pulls. */
export function curvesOf(judge: PairJudge): Curves {
  const { bundle, pulls } = judge;
  const drawn = pulls.filter(({ curve, pull }) => curve?.channels.has('power') && pull.kind === 'measured');
  return {
    setups: bundle.setups.flatMap(({ id }) => setupCurve(judge, id) ?? []),
    differences: differenceCurves(judge),
    pulls: drawn.map((entry) => {
      const grid = commonSpeeds([entry], DRAWN_STEP_RPM);
      const power = correctedPower(judge, entry);
      return { id: entry.pull.id, setup: entry.pull.setup, used: entry.used, engineSpeedRpm: grid, powerW: grid.map((rpm) => power(rpm)) };
    }),
    sections: sectionCurves(judge),
  };
}

function setupCurve(judge: PairJudge, setup: string): SetupCurve | null {
  const own = judge.pulls.filter((entry) => entry.used && entry.pull.setup === setup && entry.curve?.channels.has('power'));
  if (own.length === 0) return null;
  const powers = own.map((entry) => correctedPower(judge, entry));
  const grid = commonSpeeds(own, DRAWN_STEP_RPM);
  const means = grid.map((rpm) => meanInterval(powers.map((power) => power(rpm)))!);
  const perTorque = (rpm: number) => 60 / (2 * Math.PI * rpm);
  const torque = (value: number | null, i: number) => (value === null ? null : value * perTorque(grid[i]!));
  return {
    setup,
    pulls: own.length,
    engineSpeedRpm: grid,
    powerW: means.map(({ value }) => value),
    powerLowW: means.map(({ low }) => low),
    powerHighW: means.map(({ high }) => high),
    torqueNm: means.map(({ value }, i) => torque(value, i)!),
    torqueLowNm: means.map(({ low }, i) => torque(low, i)),
    torqueHighNm: means.map(({ high }, i) => torque(high, i)),
    airMassFlowKgS: grid.map((rpm) => meanAirFlowKgS(own, rpm)),
  };
}

/** Mean logged air mass flow of pulls at an engine speed, kg/s; null where none has logged it. */
function meanAirFlowKgS(pulls: readonly AnalysedPull[], rpm: number): number | null {
  const flows = pulls.flatMap(({ curve }) => {
    const flow = curve!.channels.get('airMassFlow');
    const value = flow ? interpolate(curve!.gridRpm, flow, rpm) : Number.NaN;
    return Number.isFinite(value) ? [value] : [];
  });
  return flows.length === 0 ? null : flows.reduce((sum, value) => sum + value, 0) / flows.length;
}

/** The difference of every compared pair, by the question about power that leads. */
function differenceCurves(judge: PairJudge): DifferenceCurve[] {
  const terms = powerTerms(judge.bundle, claimQuestion(judge.bundle));
  return comparedPairs(judge.bundle).flatMap(
    ([reference, candidate]) => differenceCurve(judge, judge.judge(reference, candidate, terms)) ?? [],
  );
}
