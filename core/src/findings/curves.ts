import type { Bundle, Curves, DifferenceCurve, SetupCurve } from '@gezeit/contract';
import type { Assumptions } from '../judge/assumptions.js';
import { fitLevelled } from '../judge/estimates.js';
import { meanInterval } from '../judge/pooled-difference.js';
import { withinSetup } from '../judge/series.js';
import { percentOf } from '../judge/verdict.js';
import { smoothed } from '../pull/band.js';
import { isHeld } from '../pull/flags.js';
import { GRID_STEP_RPM } from '../pull/resample.js';
import { interpolate } from '../pull/traces.js';
import { pullFactor, type AnalysedPull } from './analysed-pull.js';
import { comparedPairs } from './analyse.js';
import { assumptionsFor } from './assumptions-for.js';
import { movedSensors } from './confounds.js';
import { daySeries, logMetric, type DaySeries } from './day-series.js';

/** Step of the curves that are drawn, rpm, and of the points at which the difference is judged. */
const DRAWN_STEP_RPM = 50;
const JUDGED_STEP_RPM = 100;
/** Points on either side over which the residual spread is pooled. */
const POOLED_NEIGHBOURS = 2;

/** Power and torque over engine speed for every setup, their differences, and the single pulls. */
export function curvesOf(bundle: Bundle, pulls: AnalysedPull[]): Curves {
  const drawn = pulls.filter(({ curve, pull }) => curve?.channels.has('power') && pull.kind === 'measured');
  return {
    setups: bundle.setups.flatMap(({ id }) => setupCurve(bundle, pulls, id) ?? []),
    differences: comparedPairs(bundle).flatMap(
      ([reference, candidate]) => differenceCurve(bundle, pulls, reference.id, candidate.id, assumptionsFor(bundle)) ?? [],
    ),
    pulls: drawn.map((entry) => {
      const grid = speeds([entry], DRAWN_STEP_RPM);
      const power = correctedPower(bundle, entry);
      return { id: entry.pull.id, setup: entry.pull.setup, used: entry.used, engineSpeedRpm: grid, powerW: grid.map((rpm) => power(rpm)) };
    }),
  };
}

/** Engine speeds that every pull covers. */
function speeds(pulls: AnalysedPull[], stepRpm: number): number[] {
  const low = Math.max(...pulls.map(({ curve }) => curve!.gridRpm[4]!));
  const high = Math.min(...pulls.map(({ curve }) => curve!.gridRpm.at(-5)!));
  const first = Math.ceil(low / stepRpm);
  const count = Math.floor(high / stepRpm) - first + 1;
  return Array.from({ length: Math.max(0, count) }, (_, i) => (first + i) * stepRpm);
}

function correctedPower(bundle: Bundle, entry: AnalysedPull): (rpm: number) => number {
  const { curve } = entry;
  const factor = pullFactor(bundle.programme.correction, entry) ?? 1;
  const smooth = smoothed(curve!.channels.get('power')!);
  return (rpm) => factor * interpolate(curve!.gridRpm, smooth, rpm);
}

function setupCurve(bundle: Bundle, pulls: AnalysedPull[], setup: string): SetupCurve | null {
  const own = pulls.filter((entry) => entry.used && entry.pull.setup === setup && entry.curve?.channels.has('power'));
  if (own.length === 0) return null;
  const powers = own.map((entry) => correctedPower(bundle, entry));
  const grid = speeds(own, DRAWN_STEP_RPM);
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
function meanAirFlowKgS(pulls: AnalysedPull[], rpm: number): number | null {
  const flows = pulls.flatMap(({ curve }) => {
    const flow = curve!.channels.get('airMassFlow');
    const value = flow ? interpolate(curve!.gridRpm, flow, rpm) : Number.NaN;
    return Number.isFinite(value) ? [value] : [];
  });
  return flows.length === 0 ? null : flows.reduce((sum, value) => sum + value, 0) / flows.length;
}

/** The levelled model point by point over engine speed; the noise of a point is the day's, scaled by the spread pooled over its neighbours. */
function differenceCurve(
  bundle: Bundle,
  pulls: AnalysedPull[],
  reference: string,
  candidate: string,
  assumptions: Assumptions,
): DifferenceCurve | null {
  const own = pulls.filter((entry) => entry.used && entry.curve?.channels.has('power'));
  const pair = own.filter(({ pull }) => pull.setup === reference || pull.setup === candidate);
  if (!pair.some(({ pull }) => pull.setup === reference) || !pair.some(({ pull }) => pull.setup === candidate)) return null;
  const grid = speeds(pair, JUDGED_STEP_RPM);
  const setups = new Map(bundle.setups.map((setup) => [setup.id, setup]));
  const dropStart = movedSensors(setups.get(reference)!, setups.get(candidate)!).includes('intakeAirTemperature');
  const whole = daySeries(pair, reference, bundle.programme.bandRpm, logMetric(bundle), dropStart);
  if (!whole || whole.setups.length < 2) return null;
  const points = grid.map((rpm) => pointSeries(bundle, whole, rpm));
  const spreads = points.map(({ value }) => spread({ ...whole.series, value }));
  const dayPooled = Math.max(1e-6, spread(whole.series));
  const fits = points.map((series, i) => {
    const around = spreads.slice(Math.max(0, i - POOLED_NEIGHBOURS), i + POOLED_NEIGHBOURS + 1);
    const pooled = Math.sqrt(around.reduce((sum, value) => sum + value ** 2, 0) / around.length);
    const noise = { ...assumptions.noise, mid: assumptions.noise.mid * Math.max(1, pooled / dayPooled) };
    return fitLevelled(series, { ...assumptions, noise }, isHeld(bundle)).estimates[0]!;
  });
  return {
    reference,
    candidate,
    engineSpeedRpm: grid,
    pct: fits.map(({ value }) => percentOf(value)),
    lowPct: fits.map(({ low }) => percentOf(low)),
    highPct: fits.map(({ high }) => percentOf(high)),
  };
}

function pointSeries(bundle: Bundle, day: DaySeries, rpm: number): DaySeries['series'] {
  const value = day.pulls.map((entry) => Math.log(correctedPower(bundle, entry)(Math.max(rpm, GRID_STEP_RPM))));
  return { ...day.series, value };
}

function spread(series: DaySeries['series']): number {
  const deviations = withinSetup(series, series.value);
  return Math.sqrt(deviations.reduce((sum, value) => sum + value * value, 0) / Math.max(1, series.setup.length - 2));
}
