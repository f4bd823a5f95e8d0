import type { SpeedMap } from './speed-map.js';
import { type Trace } from './traces.js';
import { interpolate, lowerBound } from '../numeric/interpolate.js';

/** Step of the engine-speed grid, rpm. */
export const GRID_STEP_RPM = 25;

/** Engine speeds, whole multiples of the step, that a sweep covers. */
export function gridOf(map: SpeedMap): Float64Array {
  const first = Math.ceil(map.speed[0]! / GRID_STEP_RPM);
  const last = Math.floor(map.speed.at(-1)! / GRID_STEP_RPM);
  return Float64Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => (first + i) * GRID_STEP_RPM);
}

/**
 * A trace on the engine-speed grid: its mean over the time in which the engine passed half a step either side. NaN where the trace
 * does not cover that time.
 * @param offsetS added to the map's times to get the trace's own clock, s.
 */
export function resample(trace: Trace, map: SpeedMap, gridRpm: Float64Array, offsetS: number): Float64Array {
  const area = cumulativeArea(trace);
  const { fromS, toS } = passedAt(map, gridRpm);
  const values = new Float64Array(gridRpm.length);
  // Where one step ends the next begins.
  let [lastS, lastArea] = [Number.NaN, Number.NaN];
  for (let i = 0; i < values.length; i += 1) {
    const from = fromS[i]! + offsetS;
    const to = toS[i]! + offsetS;
    if (!(to > from)) {
      values[i] = interpolate(trace.timeS, trace.values, from);
      continue;
    }
    const before = from === lastS ? lastArea : areaUntil(trace, area, from);
    [lastS, lastArea] = [to, areaUntil(trace, area, to)];
    values[i] = (lastArea - before) / (to - from);
  }
  return values;
}

/** When the engine passed half a step either side of each speed of a grid, on the map's clock. */
interface Passed {
  gridRpm: Float64Array;
  fromS: Float64Array;
  toS: Float64Array;
}

/** Every channel of a sweep is brought onto one grid by one map: its times are looked up once. */
const passed = new WeakMap<SpeedMap, Passed>();

function passedAt(map: SpeedMap, gridRpm: Float64Array): Passed {
  const known = passed.get(map);
  if (known?.gridRpm === gridRpm) return known;
  const [lowest, highest] = [map.speed[0]!, map.speed.at(-1)!];
  const made = {
    gridRpm,
    fromS: gridRpm.map((speed) => interpolate(map.speed, map.timeS, Math.max(lowest, speed - GRID_STEP_RPM / 2))),
    toS: gridRpm.map((speed) => interpolate(map.speed, map.timeS, Math.min(highest, speed + GRID_STEP_RPM / 2))),
  };
  passed.set(map, made);
  return made;
}

function cumulativeArea({ timeS, values }: Trace): Float64Array {
  const area = new Float64Array(values.length);
  for (let i = 1; i < values.length; i += 1) {
    area[i] = area[i - 1]! + ((values[i]! + values[i - 1]!) / 2) * (timeS[i]! - timeS[i - 1]!);
  }
  return area;
}

function areaUntil({ timeS, values }: Trace, area: Float64Array, at: number): number {
  const right = lowerBound(timeS, at);
  if (right === timeS.length || (right === 0 && timeS[0] !== at)) return Number.NaN;
  if (right === 0) return 0;
  const width = at - timeS[right - 1]!;
  const slope = (values[right]! - values[right - 1]!) / (timeS[right]! - timeS[right - 1]!);
  return area[right - 1]! + width * (values[right - 1]! + (slope * width) / 2);
}
