import type { Bundle, Correction, Metric, Pull, TypedFigures } from '@gezeit/contract';
import type { AirState } from '../air/moist-air.js';
import { boostedEstimate } from '../correction/boosted.js';
import { correctionFactor } from '../correction/standards.js';
import { bandMean, bandPeak, type Band } from '../pull/band.js';
import { ASSUMED_HUMIDITY, pullCurve, SweepAssignment, type LogTables, type PullCurve, type StartState } from '../pull/curve.js';
import { dayOrder, type PlaceInDay } from '../pull/day-order.js';
import { pointCurve } from '../pull/typed-curve.js';
import { flagsOf, LEAVING_OUT, startAboveAmbientK, type FlagDetail } from '../pull/flags.js';

/** A pull with everything that is known of it before setups are compared. */
export interface AnalysedPull {
  pull: Pull;
  place: PlaceInDay;
  curve: PullCurve | null;
  start: StartState;
  air: AirState | null;
  flags: FlagDetail[];
  used: boolean;
  reasons: string[];
  warnings: string[];
}

/** Reads every pull of a bundle, flags it within the asked band and decides what is left out. */
export function analysePulls(bundle: Bundle, tables: LogTables): AnalysedPull[] {
  const sweeps = new SweepAssignment(bundle.pulls, tables);
  const places = dayOrder(bundle.pulls);
  const analysed = bundle.pulls.map((pull): AnalysedPull => {
    const curve = pullCurve(bundle, pull, tables, sweeps);
    return {
      pull,
      place: places.get(pull.id)!,
      curve,
      start: curve?.start ?? statedStart(pull),
      air: curve?.air ?? statedAir(pull),
      flags: [],
      used: false,
      reasons: [],
      warnings: curve?.warnings ?? [],
    };
  });
  const band = bundle.programme.bandRpm;
  for (const entry of analysed) entry.flags = flagsFor(bundle, entry, analysed, band);
  for (const entry of analysed) decide(bundle, entry, analysed);
  return analysed.sort((a, b) => a.place.timeH - b.place.timeH);
}

function statedStart({ start }: Pull): StartState {
  return { intakeAirC: start?.intakeAirC ?? null, coolantC: start?.coolantC ?? null, oilC: start?.oilC ?? null };
}

function statedAir({ ambient }: Pull): AirState | null {
  if (ambient?.temperatureC == null || ambient.pressureKPa == null) return null;
  const relativeHumidity = ambient.relativeHumidityPct == null ? ASSUMED_HUMIDITY : ambient.relativeHumidityPct / 100;
  return { temperatureC: ambient.temperatureC, pressurePa: ambient.pressureKPa * 1000, relativeHumidity };
}

const isMeasured = ({ pull }: AnalysedPull) => pull.kind === 'measured' && !pull.aborted;

function flagsFor(bundle: Bundle, entry: AnalysedPull, all: AnalysedPull[], band: Band): FlagDetail[] {
  if (!entry.curve) return entry.pull.typed ? [{ flag: 'typed', detail: 'figures read off a screen or sheet' }] : [];
  const measured = all.filter((other) => isMeasured(other) && other.curve);
  return flagsOf(bundle, entry.curve, band, {
    sameSetup: measured.filter(({ pull }) => pull.setup === entry.pull.setup).map(({ curve }) => curve!),
    startAboveAmbientK: measured.map(({ curve }) => startAboveAmbientK(curve!)).filter((value) => value !== null),
  });
}

/** Whether every measured pull of a setup carries a flag: then it is a confound of the setup and leaves nothing out. */
export function onEveryPull(pulls: AnalysedPull[], setup: string, flag: FlagDetail['flag']): boolean {
  const own = pulls.filter((entry) => entry.pull.setup === setup && isMeasured(entry) && (entry.curve || entry.pull.typed));
  return own.length > 0 && own.every(({ flags }) => flags.some((entry) => entry.flag === flag));
}

function decide(bundle: Bundle, entry: AnalysedPull, all: AnalysedPull[]): void {
  const { pull } = entry;
  if (pull.kind !== 'measured') entry.reasons.push(pull.kind);
  else if (pull.aborted) entry.reasons.push('aborted');
  else if (metricValue(bundle.programme.metric, entry, bundle.programme.bandRpm, true) === null) entry.reasons.push(missing(entry));
  else if (bundle.programme.correction !== 'NONE' && !entry.air) entry.reasons.push('no weather to correct with');
  else if (typeof pull.excluded === 'string') entry.reasons.push(pull.excluded);
  else if (pull.excluded !== false) {
    for (const { flag } of entry.flags) {
      if (LEAVING_OUT.includes(flag) && !onEveryPull(all, pull.setup, flag)) entry.reasons.push(flag);
    }
  }
  entry.used = entry.reasons.length === 0;
}

function missing({ curve, pull }: AnalysedPull): string {
  if (curve) return curve.channels.has('power') ? 'the band is not covered' : 'no power or torque in its logs';
  if (pull.typed) return 'the typed figures do not give what is compared';
  return pull.logs.length > 0 ? 'no full-throttle sweep in its logs' : 'no logs';
}

/** Name of the power or torque channel of a metric. */
function metricChannel(metric: Metric): 'power' | 'torque' {
  return metric.endsWith('Power') ? 'power' : 'torque';
}

/**
 * The metric of a pull within a band, uncorrected, W or N·m; null where it cannot be had.
 * @param partial whether a pull that covers only a part of the band still counts (it is then cut later).
 */
export function metricValue(metric: Metric, { curve, pull }: AnalysedPull, band: Band, partial = false): number | null {
  const channel = metricChannel(metric);
  if (!curve) return pull.typed ? typedValue(metric, pull.typed, band, partial) : null;
  const covered = partial ? coveredPart(curve, band) : band;
  if (!covered) return null;
  if (metric.startsWith('peak')) return bandPeak(curve, channel, covered)?.value ?? null;
  return bandMean(curve, channel, covered);
}

/** A metric from typed figures, W or N·m: the figure itself, else from the points of the curve where they cover the band. */
function typedValue(metric: Metric, { peakPowerKW, bandMeanPowerKW, points }: TypedFigures, band: Band, partial: boolean): number | null {
  if (metric === 'peakPower' && peakPowerKW != null) return peakPowerKW * 1000;
  if (metric === 'meanPower' && bandMeanPowerKW != null) return bandMeanPowerKW * 1000;
  const sorted = [...(points ?? [])].sort((a, b) => a.rpm - b.rpm);
  if (sorted.length < LEAST_POINTS) return null;
  const rpm = sorted.map((point) => point.rpm);
  const powerW = sorted.map(({ powerKW }) => powerKW * 1000);
  const curve = pointCurve(rpm, powerW);
  const covered = partial ? coveredPart(curve, band) : band;
  if (!covered) return null;
  const channel = metricChannel(metric);
  return metric.startsWith('peak') ? (bandPeak(curve, channel, covered)?.value ?? null) : bandMean(curve, channel, covered);
}

/** Fewer typed points draw no curve. */
const LEAST_POINTS = 4;

function coveredPart(curve: PullCurve, band: Band): Band | null {
  const low = Math.max(band[0], curve.gridRpm[0] ?? Infinity);
  const high = Math.min(band[1], curve.gridRpm.at(-1) ?? -Infinity);
  return low < high ? [low, high] : null;
}

/** The programme's weather factor of a pull; null where the weather is unknown and a standard is asked for. */
export function pullFactor(correction: Correction, { air }: AnalysedPull): number | null {
  if (correction === 'NONE') return 1;
  return air ? correctionFactor(correction, air) : null;
}

/** The boosted-engine estimate's factor of a pull (c9); null where pressure or weather is missing. */
export function pullBoostedFactor(bundle: Bundle, { air, curve }: AnalysedPull, band: Band): number | null {
  const control = bundle.vehicle.boostControl;
  if (!air || !curve || !control || control === 'none') return null;
  const manifold = bandMean(curve, 'manifoldPressure', band);
  return manifold === null ? null : boostedEstimate(control, air, manifold).factor;
}
