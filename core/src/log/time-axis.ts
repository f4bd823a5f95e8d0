import { GezeitError } from '../errors.js';
import type { UnitName } from '../units/units.js';
import { UNITS } from '../units/units.js';

/** A time column as written, with its unit where the header names one; clocks are in seconds already. */
export interface TimeCandidate {
  name: string;
  values: Float64Array;
  unit: UnitName | null;
  clock: boolean;
}

export interface TimeAxis {
  timeS: Float64Array;
  column: string;
  unit: UnitName;
  /** Said where the unit was not written but judged. */
  assumption: string | null;
}

const SECONDS_A_DAY = 86_400;
/** Two time columns of one file may differ by this share of the recording. */
const SAME_TIME_SHARE = 0.01;
/** A full-throttle sweep of an engine takes this long, s; decides between units. */
const SWEEP_S = { shortest: 0.8, longest: 90 };
const SWEEP_RISE_RPM = 1500;
const SAMPLE_STEP_S = { shortest: 0.0004, longest: 1.5 };

/**
 * Seconds on the logger's own clock from the file's time columns.
 * @throws GezeitError `time-columns-contradict`, `time-runs-backwards`.
 */
export function timeAxis(candidates: TimeCandidate[], engineSpeedRpm: Float64Array | null, file: string): TimeAxis | null {
  const axes = candidates.map((candidate) => inSeconds(candidate, engineSpeedRpm, file));
  const first = axes[0];
  if (!first) return null;
  for (const other of axes.slice(1)) {
    const [a, b] = [duration(first.timeS), duration(other.timeS)];
    if (Math.abs(a - b) > SAME_TIME_SHARE * Math.max(a, b)) {
      const message = `Two time columns contradict each other: "${first.column}" covers ${a.toFixed(1)} s, "${other.column}" ${b.toFixed(1)} s.`;
      throw new GezeitError('time-columns-contradict', message, 'Remove the wrong one, or correct its unit in the header.', {
        file,
        column: other.column,
      });
    }
  }
  return first;
}

function duration(timeS: Float64Array): number {
  return timeS.length === 0 ? 0 : timeS[timeS.length - 1]! - timeS[0]!;
}

function inSeconds(candidate: TimeCandidate, engineSpeedRpm: Float64Array | null, file: string): TimeAxis {
  const { name, values, clock } = candidate;
  const [unit, assumption] = clock
    ? (['s', null] as const)
    : candidate.unit
      ? ([candidate.unit, null] as const)
      : judgedUnit(candidate, engineSpeedRpm);
  const timeS = values.map((value) => value * UNITS[unit].factor);
  return { timeS: ascending(timeS, clock, name, file), column: name, unit, assumption };
}

function judgedUnit({ name, values }: TimeCandidate, engineSpeedRpm: Float64Array | null): [UnitName, string] {
  const step = medianStep(values);
  const bySteps = (['s', 'ms', 'min'] as const).filter((unit) => {
    const seconds = step * UNITS[unit].factor;
    return seconds >= SAMPLE_STEP_S.shortest && seconds <= SAMPLE_STEP_S.longest;
  });
  const say = (unit: UnitName, why: string): [UnitName, string] => [unit, `"${name}" names no unit: taken as ${unit}, ${why}.`];
  if (bySteps.length === 1) return say(bySteps[0]!, `since its steps are ${step} apart`);
  const sweep = engineSpeedRpm ? sweepLength(values, engineSpeedRpm) : null;
  if (sweep !== null) {
    const bySweep = (bySteps.length > 0 ? bySteps : (['s', 'ms', 'min'] as const)).filter((unit) => {
      const seconds = sweep * UNITS[unit].factor;
      return seconds >= SWEEP_S.shortest && seconds <= SWEEP_S.longest;
    });
    if (bySweep[0]) return say(bySweep[0], 'since a sweep of the engine would else be too fast or too slow');
  }
  return say(bySteps[0] ?? 's', 'the usual one; nothing else in the file decides it');
}

function medianStep(values: Float64Array): number {
  const steps: number[] = [];
  for (let i = 1; i < values.length && steps.length < 2000; i += 1) {
    const step = values[i]! - values[i - 1]!;
    if (step > 0) steps.push(step);
  }
  steps.sort((a, b) => a - b);
  return steps[Math.floor(steps.length / 2)] ?? Number.NaN;
}

/** Time, as written, that the engine takes for its fastest rise by the sweep's span. */
function sweepLength(time: Float64Array, speed: Float64Array): number | null {
  let best: number | null = null;
  let low = 0;
  for (let i = 1; i < speed.length; i += 1) {
    if (!(speed[i]! >= speed[low]!)) low = i;
    while (low < i && speed[i]! - speed[low + 1]! >= SWEEP_RISE_RPM && speed[low + 1]! >= speed[low]!) low += 1;
    if (speed[i]! - speed[low]! >= SWEEP_RISE_RPM) {
      const length = time[i]! - time[low]!;
      if (best === null || length < best) best = length;
    }
  }
  return best;
}

/** Repairs a clock's midnight and refuses time that runs backwards; blanks stay blank. */
function ascending(timeS: Float64Array, clock: boolean, name: string, file: string): Float64Array {
  let dayShift = 0;
  let last = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < timeS.length; i += 1) {
    if (Number.isNaN(timeS[i]!)) continue;
    let value = timeS[i]! + dayShift;
    if (clock && value < last - SECONDS_A_DAY / 2) {
      dayShift += SECONDS_A_DAY;
      value += SECONDS_A_DAY;
    }
    if (value < last) {
      const message = `Time runs backwards in "${name}" at sample ${i + 1}.`;
      throw new GezeitError('time-runs-backwards', message, 'Split the file where the logger was started again.', { file, column: name });
    }
    timeS[i] = value;
    last = value;
  }
  return timeS;
}
