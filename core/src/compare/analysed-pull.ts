import type { Bundle, Correction, Drive, Metric, Pull, TypedFigures } from '@gezeit/contract';
import type { AirState } from '../air/moist-air.js';
import { calibrationsOf } from '../channels/calibration.js';
import { boostedEstimate } from '../correction/boosted.js';
import { correctionFactor } from '../correction/standards.js';
import { flagsOfDay } from '../checks/flags-of-day.js';
import { CHECKS, type FlagDetail } from '../checks/index.js';
import type { CheckInput, PullLevel } from '../checks/check.js';
import { startAboveAmbientK } from '../checks/start-temperature.js';
import { bandMean, bandPeak, type Band } from '../pull/band.js';
import { type PullCurve } from '../pull/curve.js';
import { isSameCurve } from '../pull/same-curve.js';
import { airOf, nothingLogged, type StartState } from '../pull/start-and-air.js';
import { dayOrder, type PlaceInDay } from '../pull/day-order.js';
import type { GearRun } from '../pull/gear-runs.js';
import type { HeatCourses } from '../pull/heat-course.js';
import type { MeasuredPull } from '../pull/measure.js';
import { pointCurve } from '../pull/typed-curve.js';
import { mean } from '../numeric/means.js';
import { said, type AnySaid } from '../said.js';
import type { Assumptions } from '../judge/assumptions.js';
import { askedMetrics, isPowerQuestion, questionsOf } from './terms.js';

/** Why a pull is left out: by its kind or a flag, by what is missing, or by hand (then the text is the engineer's). */
type LeftOut = { by: 'kind' | 'flag' | 'missing'; reason: string } | { by: 'hand'; reason: string };

/** What can be missing of a pull, so that it cannot be compared. */
export type MissingReason =
  | 'band-not-covered'
  | 'no-power'
  | 'clock-not-matched'
  | 'typed-not-enough'
  | 'typed-not-uncorrected'
  | 'no-sweep'
  | 'no-logs'
  | 'no-weather';

/** A pull with everything that is known of it before setups are compared. */
export interface AnalysedPull {
  pull: Pull;
  place: PlaceInDay;
  curve: PullCurve | null;
  heat: HeatCourses | null;
  runs: readonly GearRun[];
  drive: Drive | null;
  start: StartState;
  air: AirState | null;
  flags: FlagDetail[];
  used: boolean;
  leftOut: LeftOut[];
  warnings: AnySaid[];
}

/** Places every pull in its day, flags it within the programme's band and decides what is left out. */
export function analysePulls(bundle: Bundle, measured: readonly MeasuredPull[], assumptions: Assumptions): AnalysedPull[] {
  const places = dayOrder(bundle.pulls);
  const measuredById = new Map(measured.map((entry) => [entry.id, entry]));
  const analysed = bundle.pulls.map((pull): AnalysedPull => {
    const { curve = null, heat = null, runs = [], drive = null } = measuredById.get(pull.id) ?? {};
    const ofStated: AnySaid[] = [];
    // Where logs were read, what is stated was asked already.
    const air = curve && curve.sources.size > 0 ? curve.air : airOf({ warnings: ofStated }, pull, nothingLogged());
    return {
      pull,
      place: places.get(pull.id)!,
      curve,
      heat,
      runs,
      drive,
      start: curve?.start ?? statedStart(pull),
      air,
      flags: [],
      used: false,
      leftOut: [],
      warnings: [
        ...(curve ? curve.warnings : pull.typed && pull.typed.corrected === undefined ? [said('typed-correction-unknown', {})] : []),
        ...ofStated,
        ...calibrationsOf(bundle, pull).map((calibration) => said('channel-put-right', { calibration })),
      ],
    };
  });
  analysed.sort((a, b) => a.place.timeH - b.place.timeH);
  const peers = peersOf(bundle, analysed, levelsOf(bundle, assumptions, analysed));
  const flags = flagsOfDay(analysed.map((entry) => checkInputOf(bundle, assumptions, entry, peers(entry))));
  analysed.forEach((entry, i) => (entry.flags = flags[i]!));
  for (const entry of analysed) decide(bundle, entry, analysed);
  return analysed;
}

function statedStart({ start }: Pull): StartState {
  return { intakeAirC: start?.intakeAirC ?? null, coolantC: start?.coolantC ?? null, oilC: start?.oilC ?? null };
}

const isMeasured = ({ pull }: AnalysedPull) => pull.kind === 'measured' && !pull.aborted;

/** What every measured pull made over the band from the same start: its corrected mean power less what its start temperature is worth. */
function levelsOf(bundle: Bundle, { startTemperature }: Assumptions, all: readonly AnalysedPull[]): PullLevel[] {
  const measured = all.filter((entry) => isMeasured(entry) && entry.curve);
  const starts = measured.flatMap(({ start }) => start.intakeAirC ?? []);
  const usualC = mean(starts);
  return measured.flatMap((entry) => {
    const power = bandMean(entry.curve!, 'power', bundle.programme.bandRpm);
    const factor = pullFactor(bundle.programme.correction, entry);
    if (power === null || factor === null || !(power > 0)) return [];
    const apartK = entry.start.intakeAirC === null ? 0 : entry.start.intakeAirC - usualC;
    return [{ id: entry.pull.id, setup: entry.pull.setup, level: Math.log(power * factor) - startTemperature.mean * apartK }];
  });
}

/** Pulls that are copies of earlier ones, with what they are copies of; a pull that a hand has left out has none, it may be the one too many. */
function copiesAmong(measured: readonly AnalysedPull[]): Map<AnalysedPull, string> {
  const copies = new Map<AnalysedPull, string>();
  const own: AnalysedPull[] = [];
  for (const entry of measured) {
    const first = own.find(({ curve }) => isSameCurve(curve!, entry.curve!));
    if (first) copies.set(entry, first.pull.id);
    else if (typeof entry.pull.excluded !== 'string') own.push(entry);
  }
  return copies;
}

/** What a pull is held against: made once for all pulls of a setup, of a gear, of the day. */
function peersOf(bundle: Bundle, all: readonly AnalysedPull[], levels: readonly PullLevel[]): (entry: AnalysedPull) => CheckInput['peers'] {
  const gearOf = ({ pull }: AnalysedPull) => String(bundle.setups.find(({ id }) => id === pull.setup)?.state['gear'] ?? '');
  const measured = all.filter((other) => isMeasured(other) && other.curve);
  const grouped = (keyOf: (entry: AnalysedPull) => string) => {
    const groups = new Map<string, PullCurve[]>();
    for (const entry of measured) groups.set(keyOf(entry), [...(groups.get(keyOf(entry)) ?? []), entry.curve!]);
    return (entry: AnalysedPull) => groups.get(keyOf(entry)) ?? [];
  };
  const [sameSetup, sameGear] = [grouped(({ pull }) => pull.setup), grouped(gearOf)];
  const startsAboveAmbientK = measured.map(({ curve }) => startAboveAmbientK(curve!)).filter((value) => value !== null);
  const copies = copiesAmong(measured);
  return (entry) => ({
    sameSetup: sameSetup(entry),
    sameGear: sameGear(entry),
    startAboveAmbientK: startsAboveAmbientK,
    levels,
    copyOf: copies.get(entry) ?? null,
  });
}

function checkInputOf(bundle: Bundle, assumptions: Assumptions, entry: AnalysedPull, peers: CheckInput['peers']): CheckInput {
  return {
    bundle,
    assumptions,
    id: entry.pull.id,
    setup: bundle.setups.find(({ id }) => id === entry.pull.setup) ?? null,
    curve: entry.curve,
    typed: entry.pull.typed ?? null,
    band: bundle.programme.bandRpm,
    peers,
  };
}

/** Whether every measured pull of a setup carries a flag: then it is a confound of the setup and leaves nothing out. */
export function onEveryPull(pulls: AnalysedPull[], setup: string, flag: FlagDetail['flag']): boolean {
  const own = pulls.filter((entry) => entry.pull.setup === setup && isMeasured(entry) && (entry.curve || entry.pull.typed));
  return own.length > 0 && own.every(({ flags }) => flags.some((entry) => entry.flag === flag));
}

function decide(bundle: Bundle, entry: AnalysedPull, all: AnalysedPull[]): void {
  const { pull } = entry;
  const missing = (reason: MissingReason) => entry.leftOut.push({ by: 'missing', reason });
  if (pull.kind !== 'measured') entry.leftOut.push({ by: 'kind', reason: pull.kind });
  else if (pull.aborted) entry.leftOut.push({ by: 'kind', reason: 'aborted' });
  else if (!givesWhatIsAsked(bundle, entry, all)) missing(missingOf(entry));
  else if (givesPower(bundle, entry) && bundle.programme.correction !== 'NONE' && !entry.air) missing('no-weather');
  else if (typeof pull.excluded === 'string') entry.leftOut.push({ by: 'hand', reason: pull.excluded });
  else if (pull.excluded !== false) {
    for (const { flag } of entry.flags)
      if (CHECKS[flag].leavesOut && !onEveryPull(all, pull.setup, flag)) entry.leftOut.push({ by: 'flag', reason: flag });
  }
  entry.used = entry.leftOut.length === 0;
}

/** Whether a pull can be compared in anything that is asked: a metric of power, or a sweep where power is not asked. */
function givesWhatIsAsked(bundle: Bundle, entry: AnalysedPull, all: readonly AnalysedPull[]): boolean {
  if (askedMetrics(bundle).length === 0 || givesPower(bundle, entry)) return entry.curve !== null || givesPower(bundle, entry);
  // Where nothing measured power on the whole day, what else is asked is answered all the same.
  const asksElse = questionsOf(bundle).some((question) => !isPowerQuestion(question));
  return asksElse && entry.curve !== null && !all.some((other) => isMeasured(other) && givesPower(bundle, other));
}

const givesPower = (bundle: Bundle, entry: AnalysedPull): boolean =>
  askedMetrics(bundle).some(({ metric, bandRpm }) => (metricValue(metric, entry, bandRpm, true) ?? 0) > 0);

function missingOf({ curve, pull, air }: AnalysedPull): MissingReason {
  if (curve) {
    if (curve.channels.has('power')) return 'band-not-covered';
    return curve.unmatched.has('power') || curve.unmatched.has('torque') ? 'clock-not-matched' : 'no-power';
  }
  if (pull.typed) return isCorrected(pull.typed) && !air ? 'typed-not-uncorrected' : 'typed-not-enough';
  return pull.logs.length > 0 ? 'no-sweep' : 'no-logs';
}

/** Name of the power or torque channel of a metric. */
export function metricChannel(metric: Metric): 'power' | 'torque' {
  return metric.endsWith('Power') ? 'power' : 'torque';
}

/**
 * The metric of a pull within a band, uncorrected, W or N·m; null where it cannot be had.
 * @param partial whether a pull that covers only a part of the band still counts (it is then cut later).
 */
export function metricValue(metric: Metric, entry: AnalysedPull, band: Band, partial = false): number | null {
  const { curve, pull } = entry;
  const channel = metricChannel(metric);
  if (!curve) return pull.typed ? typedValue(metric, entry, pull.typed, band, partial) : null;
  const covered = partial ? coveredPart(curve, band) : band;
  if (!covered) return null;
  if (metric.startsWith('peak')) return bandPeak(curve, channel, covered)?.value ?? null;
  return bandMean(curve, channel, covered);
}

const isCorrected = ({ corrected }: TypedFigures) => corrected != null && corrected !== 'NONE';

/** A metric from typed figures, W or N·m, brought back to uncorrected: the figure itself, else from the points of the curve where they cover the band. */
function typedValue(metric: Metric, { air }: AnalysedPull, typed: TypedFigures, band: Band, partial: boolean): number | null {
  const figure = {
    peakPower: typed.peakPowerKW == null ? null : typed.peakPowerKW * 1000,
    meanPower: typed.bandMeanPowerKW == null ? null : typed.bandMeanPowerKW * 1000,
    peakTorque: typed.peakTorqueNm ?? null,
    meanTorque: typed.bandMeanTorqueNm ?? null,
  }[metric];
  const value = figure ?? fromPoints(metric, typed, band, partial);
  if (value === null || !isCorrected(typed)) return value;
  return air ? value / correctionFactor(typed.corrected!, air) : null;
}

function fromPoints(metric: Metric, { points }: TypedFigures, band: Band, partial: boolean): number | null {
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
