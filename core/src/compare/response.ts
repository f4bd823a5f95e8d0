import type { Bundle, Question } from '@gezeit/contract';
import { interpolate } from '../numeric/interpolate.js';
import { mean } from '../numeric/means.js';
import { bandMean, type Band } from '../pull/band.js';
import type { PullCurve } from '../pull/curve.js';
import type { AnalysedPull } from './analysed-pull.js';

/** What is taken for response: when boost or torque is there, or how long the engine or the car takes between two speeds. */
type ResponseOf = NonNullable<NonNullable<Question['response']>['of']>;

/** Share of the reference's boost, or of its largest torque, at which it is called there. Assumption, and the question may name its own. */
export const RESPONSE_LEVEL = 0.9;

/** What is measured of every pull, the same for all: a level of a channel, or two speeds. */
export interface ResponseTerms {
  of: ResponseOf;
  unit: 's' | 'rpm';
  /** Level, Pa absolute or N·m; null between two speeds. */
  level: number | null;
  share: number;
  /** Between which speeds, rpm or m/s; null for a level. */
  between: readonly [number, number] | null;
}

/** The terms of a question; null where the reference's own pulls do not tell the level. */
export function responseTerms(bundle: Bundle, question: Question, reference: readonly AnalysedPull[], band: Band): ResponseTerms | null {
  const boosted = bundle.vehicle.aspiration !== 'na' && reference.some(({ curve }) => curve?.channels.has('manifoldPressure'));
  const of = question.response?.of ?? (boosted ? 'boost' : 'engineSpeed');
  const unit = question.unit === 'rpm' && (of === 'boost' || of === 'torque') ? 'rpm' : 's';
  const share = question.response?.levelPct ? question.response.levelPct / 100 : RESPONSE_LEVEL;
  if (of === 'engineSpeed' || of === 'vehicleSpeed') {
    const { from, to } = question.response ?? {};
    const between = from != null && to != null && from < to ? ([from, to] as const) : of === 'engineSpeed' ? band : null;
    // Vehicle speeds are said in km/h, as everybody says them.
    return between && { of, unit, share, level: null, between: of === 'vehicleSpeed' ? [between[0] / 3.6, between[1] / 3.6] : between };
  }
  const levels = reference.flatMap(({ curve, air }) => {
    if (!curve) return [];
    if (of === 'torque') {
      const most = curve.channels.get('torque')?.reduce((a, b) => (b > a ? b : a), 0);
      return most ? [share * most] : [];
    }
    const held = bandMean(curve, 'manifoldPressure', band);
    return held === null || !air ? [] : [air.pressurePa + share * (held - air.pressurePa)];
  });
  return levels.length === 0 ? null : { of, unit, share, level: mean(levels), between: null };
}

/** The response of a pull, s or rpm; null where it is not logged, or not reached. */
export function responseOf({ curve }: AnalysedPull, { of, unit, level, between }: ResponseTerms): number | null {
  if (!curve) return null;
  if (between) {
    const speed = of === 'engineSpeed' ? curve.gridRpm : (curve.channels.get('vehicleSpeed') ?? curve.channels.get('rollerSpeed'));
    if (!speed) return null;
    const [from, to] = between.map((value) => timeAt(curve, speed, value));
    return from == null || to == null ? null : to - from;
  }
  const channel = curve.channels.get(of === 'boost' ? 'manifoldPressure' : 'torque');
  const place = channel ? firstAbove(channel, level!) : null;
  if (place === null) return null;
  const value = interpolateAt(unit === 's' ? curve.gridTimeS : curve.gridRpm, place);
  return Number.isFinite(value) ? value : null;
}

/** When a rising speed passes a value, s after full throttle. */
function timeAt({ gridTimeS }: PullCurve, speed: Float64Array, value: number): number | null {
  const place = firstAbove(speed, value);
  const at = place === null ? interpolate(speed, gridTimeS, value) : interpolateAt(gridTimeS, place);
  return Number.isFinite(at) ? at : null;
}

/** Where a channel first passes a level from below, as a place on the grid; null where it begins above, or never does. */
function firstAbove(channel: Float64Array, level: number): number | null {
  let before = -1;
  for (let i = 0; i < channel.length; i += 1) {
    const value = channel[i]!;
    if (!Number.isFinite(value)) continue;
    if (value >= level) return before < 0 ? null : before + ((level - channel[before]!) / (value - channel[before]!)) * (i - before);
    before = i;
  }
  return null;
}

function interpolateAt(values: Float64Array, place: number): number {
  const left = Math.floor(place);
  const right = Math.min(values.length - 1, left + 1);
  return values[left]! + (place - left) * (values[right]! - values[left]!);
}

/** How fast the engine runs up in some pulls, rpm/s: what turns a belief in seconds into one in rpm. */
export function rampOf(pulls: readonly AnalysedPull[], band: Band): number | null {
  const ramps = pulls.flatMap(({ curve }) => {
    if (!curve) return [];
    const [from, to] = band.map((rpm) => interpolate(curve.gridRpm, curve.gridTimeS, rpm));
    return to! > from! ? [(band[1] - band[0]) / (to! - from!)] : [];
  });
  return ramps.length === 0 ? null : mean(ramps);
}
